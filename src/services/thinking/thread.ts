import { compileRelease, type CompiledRelease, type OfficeData } from "@/core/engine";
import type { FactsData, Registers } from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { thinkThrough, type Question, type Thought } from "./thought";

/** What a thread keeps of the office, by a key that changes whenever anything of it does. */
export interface KeptOffice {
  office: OfficeData;
  people: FactsData["people"];
  registers: Registers;
  hiddenReads: readonly string[];
  managers: Readonly<Record<string, string>>;
  duties: OfficeData["duties"];
}
export interface KeptRelease {
  key: number;
  definition: ProcessDefinition;
  registers: Registers;
}
/** A question with what is kept named by its key, and sent along only where the thread said that it has none. */
export interface Message {
  officeKey: number;
  office?: KeptOffice;
  releaseKey: number;
  procedures: {
    found: [string, string][];
    /** By the id a release is known by, the key it is kept under. */
    releases: { id: string; key: number }[];
  };
  /** That and those of procedures. */
  releases?: KeptRelease[];
  /** Facts without what comes from the office. */
  question: Omit<Question, "facts"> & {
    facts: Pick<FactsData, "records" | "files" | "asked" | "loads" | "hiddenFromActor"> & {
      calendar: Calendar;
    };
  };
}
type Calendar = NonNullable<FactsData["office"]>["calendar"] | null;

const MAX_RELEASES = 20;
const releases = new Map<number, CompiledRelease>();
let kept: { key: number; office: KeptOffice } | null = null;

/** The work of a thread beside the one that answers pages. */
export default function thread(m: Message): Thought | "send all" {
  if (m.office) kept = { key: m.officeKey, office: m.office };
  // Those of one question stay together, however many they are: else it would never be answered.
  if (m.releases && releases.size + m.releases.length > MAX_RELEASES) releases.clear();
  for (const r of m.releases ?? []) releases.set(r.key, compileRelease(r.definition, r.registers, KINDS));
  const release = releases.get(m.releaseKey);
  const inside = new Map(
    m.procedures.releases.flatMap(({ id, key }) => {
      const r = releases.get(key);
      return r ? [[id, r] as const] : [];
    }),
  );
  if (!release || inside.size < m.procedures.releases.length || kept?.key !== m.officeKey) return "send all";
  const { office, people, registers, hiddenReads, managers, duties } = kept.office;
  const { calendar, ...known } = m.question.facts;
  const facts: FactsData = {
    ...known,
    people,
    registers,
    hiddenReads,
    ...(calendar ? { office: { managers, duties, calendar } } : {}),
  };
  const procedures = { found: new Map(m.procedures.found), releases: inside };
  return thinkThrough(release, office, { ...m.question, facts }, procedures);
}

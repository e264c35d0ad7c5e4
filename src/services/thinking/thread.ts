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
  managers: Readonly<Record<string, string>>;
  duties: OfficeData["duties"];
}
export interface KeptRelease {
  definition: ProcessDefinition;
  registers: Registers;
}
/** A question with what is kept named by its key, and sent along only where the thread said that it has none. */
export interface Message {
  officeKey: number;
  office?: KeptOffice;
  releaseKey: number;
  release?: KeptRelease;
  /** Facts without what comes from the office. */
  question: Omit<Question, "facts"> & {
    facts: Pick<FactsData, "records" | "files"> & { calendar: Calendar };
  };
}
type Calendar = NonNullable<FactsData["office"]>["calendar"] | null;

const MAX_RELEASES = 20;
const releases = new Map<number, CompiledRelease>();
let kept: { key: number; office: KeptOffice } | null = null;

/** The work of a thread beside the one that answers pages. */
export default function thread(m: Message): Thought | "send all" {
  if (m.office) kept = { key: m.officeKey, office: m.office };
  if (m.release) {
    if (releases.size >= MAX_RELEASES) releases.delete(releases.keys().next().value!);
    releases.set(m.releaseKey, compileRelease(m.release.definition, m.release.registers, KINDS));
  }
  const release = releases.get(m.releaseKey);
  if (!release || kept?.key !== m.officeKey) return "send all";
  const { office, people, registers, managers, duties } = kept.office;
  const { calendar, ...known } = m.question.facts;
  const facts: FactsData = {
    ...known,
    people,
    registers,
    ...(calendar ? { office: { managers, duties, calendar } } : {}),
  };
  return thinkThrough(release, office, { ...m.question, facts });
}

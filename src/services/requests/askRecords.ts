import {
  decide,
  levelOf,
  proceduresFrom,
  releaseAt,
  type Command,
  type CompiledRelease,
  type EngineFacts,
  type ProceduresRead,
  type RequestState,
} from "@/core/engine";
import { TooHeavy } from "@/core/expression";
import { walkFields, type FactsData, type RecordRef, type RecordsAsked } from "@/core/form";
import type { Db } from "@/db";
import type { Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { isWithdrawn } from "../kernel/registersSeen";
import { answerAsked } from "./answerAsked";
import { engineFacts } from "./facts";

/** Seconds all formulas of a form may take together until it is known what it asks. */
const MOST_SECONDS = 2;

interface Around {
  release: CompiledRelease;
  procedures: ProceduresRead;
}

/** Whether a form asks something of records. */
const asksRecords = ({ definition }: CompiledRelease): boolean => {
  let asks = false;
  walkFields(
    definition.fields,
    (f) => (asks ||= f.among !== undefined || f.checks?.some((c) => c.records) === true),
  );
  return asks;
};

/** The release whose form a command fills in, where it asks something of records; null for none. */
export function formAsking(
  { release, procedures }: Around,
  state: RequestState,
  c: Command,
): CompiledRelease | null {
  if (c.type !== "start" && c.type !== "answer") return null;
  const level = c.type === "answer" ? levelOf(state, c.task) : null;
  const on = level ? releaseAt(level, release, proceduresFrom(procedures)) : release;
  return asksRecords(on) ? on : null;
}

/** What is known, with what the form that is sent asks of records. @param on the release of that form */
export async function withRecordsAsked(
  { db, directory: d, release, procedures, now }: Around & { db: Db; directory: Directory; now: number },
  on: CompiledRelease,
  state: RequestState,
  c: Command,
  data: FactsData,
  load: (records: readonly RecordRef[]) => Promise<FactsData>,
): Promise<FactsData> {
  const asked: RecordsAsked[] = [];
  const until = performance.now() + MOST_SECONDS * 1000;
  const facts: EngineFacts = {
    ...engineFacts(d, data, now, undefined, procedures),
    outOfTime: () => performance.now() > until,
    onlyAsks: true,
    recordsThere: (a) => (asked.push(a), null),
  };
  try {
    decide(release, state, c, facts);
  } catch (e) {
    if (e instanceof TooHeavy) throw new Failed({ code: "too-heavy", data: { seconds: MOST_SECONDS } });
    throw e;
  }
  const answers = await answerAsked(db, asked, {
    d,
    release: on,
    facts,
    load: async (records) => engineFacts(d, await load(records), now, undefined, procedures),
    withdrawn: isWithdrawn(d, release.definition.key, on.definition.key),
  });
  return { ...data, asked: answers };
}

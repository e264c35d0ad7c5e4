import { broken, portsOf, stepKind, type AnyStep } from "@/core/kinds";
import { mayBegin, placesOf, type ProcessDefinition } from "@/core/route";
import { getPool, processes, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase } from "../kernel/defineUseCase";
import { mustDesign } from "./mustDesign";

/** A step that hands to a procedure, or starts requests of a process. */
export interface UsedBy {
  key: string;
  process: string;
  /** Of the release it stands in; null for the draft. */
  version: string | null;
  number: string;
  step: string;
}
export interface Broken extends UsedBy {
  why: string[];
}

interface Caller extends UsedBy {
  /** Whether it stays on the version it is fixed to. */
  fixed: boolean;
  knows: ReturnType<NonNullable<AnyStep["calls"]>["knows"]>;
}
/** The steps of drafts and live releases that hand to a procedure or start requests of a process. */
async function callers(db: Db, procedure: string): Promise<Caller[]> {
  return (await processes.callersOf(db, procedure)).flatMap(({ key, version, definition }) =>
    [...placesOf(definition, KINDS).values()].flatMap(({ step, number }) => {
      const { calls, begins } = stepKind(KINDS, step);
      const to = calls?.to(step);
      const used = { key, process: definition.name, version, number, step: step.name };
      if (begins?.to(step) === procedure) return [{ ...used, fixed: false, knows: begins.knows(step) }];
      if (!calls || to?.procedure !== procedure) return [];
      return [{ ...used, fixed: to.version !== null, knows: calls.knows(step) }];
    }),
  );
}

/** What could not hand to it any more if this were released; steps that are fixed to a version stay right. */
export async function brokenBy(db: Db, d: ProcessDefinition): Promise<Broken[]> {
  const now = portsOf(d.fields);
  return (await callers(db, d.key)).flatMap(({ fixed, knows, ...used }) => {
    if (fixed) return [];
    const kept = d.procedure || mayBegin(d, used.key, KINDS);
    const why = kept ? broken(knows, knows.given, now) : ["that process may start none any more"];
    return why.length > 0 ? [{ ...used, why }] : [];
  });
}

/** What hands to a procedure or starts requests of a process, for who may design it. */
export const whereUsed = defineUseCase(["design"], async (c, key: string): Promise<UsedBy[]> => {
  const db = getPool();
  await mustDesign(c, db, key);
  return (await callers(db, key)).map(({ fixed: _, knows: __, ...used }) => used);
});

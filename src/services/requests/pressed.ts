import type { Given } from "@/core/engine";
import { recordTitle } from "@/core/form";
import { startKind } from "@/core/kinds";
import { filledBy, startsBy } from "@/core/records";
import type { ProcessDefinition, Start } from "@/core/route";
import { getPool, registers, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { Call } from "../kernel/defineUseCase";
import type { Directory, Offered } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { recordProgramOf } from "../registers/recordPrograms";
import { nearOf, startProgram } from "../registers/startsByRecords";
import { engineFacts, factsReader } from "./facts";

/** What somebody pressed: the id of a start of the process, and of the record on whose page it is offered. */
export interface Press {
  start: string;
  record: string;
}

/** A start that a record's page offers. */
export interface OfferedPress {
  process: string;
  name: string;
  start: string;
  says: string;
  atOnce: boolean;
}

/** What a release offers on records by this start; null for any other. */
const pressOf = (start: Start | undefined) => (start && startKind(KINDS, start).ofPress?.(start)) ?? null;

/** Whether this start is offered to whoever acts, on a record of a register they see. */
function mayPress(c: Call, d: Directory, start: Start): boolean {
  const press = pressOf(start);
  const seen = press !== null && Object.hasOwn(registersSeen(d, c.actor), press.register);
  return c.may({ action: "press", start, seen });
}

/** Whether one of these starts is offered to whoever acts under this id. */
export const isOffered = (c: Call, d: Directory, starts: readonly Start[], id: string): boolean => {
  const start = starts.find((s) => s.id === id);
  return start !== undefined && pressOf(start) !== null && mayPress(c, d, start);
};

const isPaused = (d: Directory, process: string, start: string): boolean =>
  d.offered.find((o) => o.process === process)?.paused[start] !== undefined;

/** A start of a release that is offered to whoever acts; fails with "not-found" where there is none. */
export function pressable(c: Call, d: Directory, definition: ProcessDefinition, id: string) {
  const start = definition.starts.find((s) => s.id === id);
  const press = pressOf(start);
  const program = start && startProgram(d, start);
  const p = press && recordProgramOf(d, press.register);
  if (!start || !press || !mayPress(c, d, start) || !program || !p)
    throw new Failed({ code: "not-found", data: { what: "start", id } });
  return { press, program, p, fields: definition.fields, paused: isPaused(d, definition.key, id) };
}

/**
 * What a request begins with that is started on a record's page.
 * @param hold locks the record until the caller's transaction ends, so that of two who press the second finds what the
 *   first has led to
 * @returns fails with "not-found" where there is no such record; with "not-offered" where what must hold of it does not
 *   or cannot be told, or what it fills in cannot be told
 */
export async function pressed(
  db: Db,
  c: Call,
  d: Directory,
  { press, program, p, fields, paused }: ReturnType<typeof pressable>,
  recordId: string,
  now: number,
  hold: boolean,
): Promise<Given & { title: string }> {
  const read = hold ? registers.lockRecords : registers.recordsByIds;
  const [record] = /^\d{1,18}$/.test(recordId) ? await read(db, p.shape, [recordId]) : [];
  if (!record) throw new Failed({ code: "not-found", data: { what: p.shape.one, id: recordId } });
  const reader = factsReader(db, d, { fields: p.form.fields }, { request: null, by: [] });
  const facts = engineFacts(d, await reader.load([{ register: p.shape.key, id: record.id }], record), now);
  const holds = startsBy(program, p, nearOf(record), facts);
  const title = recordTitle(registersSeen(d, c.actor)[press.register]!, record);
  const refused = (why: string | null) =>
    new Failed({ code: "not-offered", data: { says: press.says, title, why } });
  if (paused) throw refused("It is paused for a while; whoever looks after the process can let it go on.");
  if (holds !== true) throw refused(holds === false ? null : holds.why);
  const filled = filledBy(program, p, { before: null, after: record }, fields, facts);
  if ("why" in filled) throw refused(filled.why);
  return { data: filled.data, held: program.fills.into, title };
}

/** What the page of a record offers whoever looks. What cannot be told of it is not offered. */
export async function offeredOn(
  c: Call,
  d: Directory,
  register: string,
  id: string,
  now: number,
): Promise<OfferedPress[]> {
  const p = recordProgramOf(d, register);
  const near = d.offered.flatMap((o: Offered) =>
    o.starts.flatMap((start) => {
      const press = pressOf(start);
      const offers = press?.register === register && !isPaused(d, o.process, start.id);
      return offers && mayPress(c, d, start) ? [{ o, start, press }] : [];
    }),
  );
  // What must hold of it may read columns that whoever looks does not see.
  const [record] = p && near.length > 0 ? await registers.recordsByIds(getPool(), p.shape, [id]) : [];
  if (!p || !record) return [];
  const reader = factsReader(getPool(), d, { fields: p.form.fields }, { request: null, by: [] });
  const facts = engineFacts(d, await reader.load([{ register, id: record.id }], record), now);
  return near.flatMap(({ o, start, press }) => {
    const program = startProgram(d, start);
    if (!program || startsBy(program, p, nearOf(record), facts) !== true) return [];
    const { says, atOnce } = press;
    return [{ process: o.process, name: o.name, start: start.id, says, atOnce }];
  });
}

import type { WorkingCalendar } from "@/core/calendar";
import { environment } from "@/core/expression";
import {
  factsSeen,
  recordTitle,
  type Field,
  type FormData,
  type Registers,
  type RegisterShape,
  type StoredRecord,
} from "@/core/form";
import { startKind } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import {
  DAYS_AHEAD,
  cameNear,
  comesNear,
  daysOn,
  filledBy,
  isCounted,
  timeBefore,
  timeOfKind,
  readsBefore,
  startsBy,
  type OfDates,
  type StartPreview,
} from "@/core/records";
import type { Start } from "@/core/route";
import { getPool, processes, recordStarts, registers, searching, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase } from "../kernel/defineUseCase";
import { nowMs } from "../kernel/clock";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { comeBy } from "../registers/lookDates";
import { recordProgramOf } from "../registers/recordPrograms";
import { AS_IT_IS, calendarOf, nearOf, startProgram } from "../registers/startsByRecords";
import { engineFacts, factsReader } from "../requests/facts";
import { mustDesign } from "./mustDesign";
import { against } from "./workshop";

/** Records that are worked out one by one where a part of the condition is none for the database. */
const MOST_READ = 5000;
const AT_ONCE = 500;
const MOST_MS = 2000;
const SHOWN = 20;

/** Which of today's records a start of the draft would take, as it is kept; null of a start by no record. */
export const startPreview = defineUseCase(
  ["design"],
  async (c, key: string, startId: string): Promise<StartPreview | null> => {
    const db = getPool();
    await mustDesign(c, db, key);
    const row = await processes.draftOf(db, key);
    const start = row?.definition.starts.find((s) => s.id === startId);
    if (!row || !start) throw new Failed({ code: "not-found", data: { what: "start", id: startId } });
    const of = askedOf(start);
    if (!of) return null;
    const d = await loadDirectory(db);
    // What is wrong with it is told first, and so is what whoever looks may not see of what it reads.
    const wrong = problemsOf(row.definition, await against(db, d, c.actor, key)).find(
      (p) => p.severity === "error" && p.where.kind === "start" && p.where.id === startId,
    );
    const shape = d.registers[of.register];
    if (wrong || !shape) return { ok: false, why: wrong?.message ?? "" };
    if (of.when !== null && readsBefore(of.when))
      return { ok: false, why: "What a record was before is not told by today’s records." };
    const now = await nowMs(db);
    const { definition } = row;
    const calendar = calendarOf(d, { calendar: definition.calendar ?? null });
    const mark = of.dates ? (await recordStarts.startMarks(db)).get(`${key}/${startId}`) : undefined;
    const dates = of.dates && ahead(of.dates, mark ?? null, now, calendar);
    if (of.dates && !dates) return { ok: false, why: "Its calendar never opens, so no date comes near." };
    const seen = registersSeen(d, c.actor);
    const { fields } = definition;
    try {
      return await searching((on) => looked(on, d, { start, of, shape, seen, dates, calendar, fields, now }));
    } catch (e) {
      const { code = "" } = e as { code?: string };
      if (code === TOO_LONG) return { ok: false, why: TOO_SLOW };
      // Class 22: a value the database cannot work with.
      if (code.startsWith("22")) return { ok: false, why: "A value in a record cannot be worked with." };
      throw e;
    }
  },
);
const TOO_SLOW = "Counting them takes too long. Add a condition that leaves fewer.";
const TOO_LONG = "57014";

interface AskedOf {
  says: Extract<StartPreview, { ok: true }>["says"];
  register: string;
  when: string | null;
  dates: OfDates | null;
}

/** What a start asks of records; null where it asks nothing of them. */
function askedOf(start: Start): AskedOf | null {
  const kind = startKind(KINDS, start);
  const [records, dates, press] = [kind.ofRecords?.(start), kind.ofDates?.(start), kind.ofPress?.(start)];
  if (records) return { says: "holds", register: records.register, when: records.when, dates: null };
  if (dates) return { says: "near", register: dates.register, when: dates.when, dates };
  const each = kind.ofEach?.(start);
  if (each) return { says: "each", register: each.register, when: each.when, dates: null };
  return press ? { says: "offered", register: press.register, when: press.when, dates: null } : null;
}

/** The dates that the first look takes, and those of the days after it. */
function ahead(of: OfDates, mark: string | null, now: number, calendar: WorkingCalendar) {
  const come = comeBy(of, now, calendar);
  const looked = mark === null ? timeBefore(come) : timeOfKind(mark, come);
  const range = cameNear(of, looked, daysOn(come, DAYS_AHEAD), calendar);
  return range && { ...range, come };
}

interface Looking {
  start: Start;
  of: AskedOf;
  shape: RegisterShape;
  /** The registers as whoever looks sees them. */
  seen: Registers;
  dates: { after: string; to: string; come: string } | null;
  calendar: WorkingCalendar;
  fields: readonly Field[];
  now: number;
}
interface Taken {
  record: StoredRecord;
  begins: FormData | null;
  /** When its date comes near. */
  near: string | null;
}

/** The records the database leaves, one more than are counted where there are more; or why that cannot be told. */
async function candidates(
  on: Db,
  d: Directory,
  { of, shape, dates, now }: Looking,
): Promise<{ ids: string[]; rest: string | null } | { why: string }> {
  const around = { registers: d.registers, kinds: KINDS };
  const split =
    of.when === null ? { conditions: [], rest: null } : registers.splitCondition(of.when, shape, around, {});
  if ("why" in split) return split;
  const facts = engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now);
  const env = environment({ get: () => undefined }, facts);
  const where = split.conditions.map((x) => (bind: (v: unknown) => string) => x.where(env, bind));
  if (of.dates && dates) {
    const column = `t.${registers.quoted(of.dates.column)}`;
    const type = of.dates.clock === null ? "date" : "timestamp";
    const { after, to } = dates;
    where.push((bind) => `${column} > ${bind(after)}::${type} and ${column} <= ${bind(to)}::${type}`);
  }
  const sort = of.dates ? [{ column: of.dates.column }] : [];
  const ids = await registers.findRecordIds(on, shape, {
    where,
    sort,
    backwards: false,
    limit: MOST_READ + 1,
  });
  if (split.rest === null || ids.length <= MOST_READ) return { ids, rest: split.rest };
  return {
    why: `“${split.rest}” cannot be asked of the database, and more than ${MOST_READ} records are left to be read one by one.`,
  };
}

async function looked(on: Db, d: Directory, l: Looking): Promise<StartPreview> {
  const { of, shape, dates, now } = l;
  const found = await candidates(on, d, l);
  if ("why" in found) return { ok: false, why: found.why };
  const made = startProgram(d, l.start)!;
  const program = { ...made, of: { ...made.of, ...AS_IT_IS } };
  const p = recordProgramOf(d, shape.key)!;
  const reader = factsReader(on, d, { fields: p.form.fields }, { request: null, by: [] });
  const counted = found.ids.slice(0, MOST_READ);
  // Where the database was asked all of it, only those that are shown are looked at more closely.
  const closely = found.rest === null && !dates ? counted.slice(0, SHOWN) : counted;
  const taken: Taken[] = [];
  const unclear: string[] = [];
  const until = performance.now() + MOST_MS;
  for (let from = 0; from < closely.length; from += AT_ONCE) {
    const rows = await registers.recordsByIds(on, shape, closely.slice(from, from + AT_ONCE));
    const facts = engineFacts(d, await reader.load([], ...rows), now);
    for (const record of inOrder(rows, closely)) {
      if (performance.now() > until) return { ok: false, why: TOO_SLOW };
      const starts = startsBy(program, p, nearOf(record), facts);
      if (starts === false) continue;
      if (starts !== true) {
        unclear.push(starts.why);
        continue;
      }
      const what = { before: null, after: record };
      const filled = taken.length < SHOWN ? filledBy(program, p, what, l.fields, facts) : null;
      const date = of.dates ? String(record[of.dates.column]) : "";
      taken.push({
        record,
        begins: filled && "data" in filled ? filled.data : null,
        near: of.dates && isCounted(of.dates, date) ? comesNear(of.dates, date, l.calendar) : null,
      });
    }
  }
  const first = taken.slice(0, SHOWN);
  const begun = first.flatMap((t) => (t.begins ? [t.begins] : []));
  const pointed = await factsReader(on, d, { fields: l.fields }, { request: null, by: [] }).load(
    [],
    ...begun,
  );
  const own = l.seen[shape.key]!;
  const atOnce = (t: Taken) => dates && t.near !== null && t.near <= dates.come;
  return {
    ok: true,
    says: of.says,
    one: shape.one,
    register: shape.name,
    count: closely === counted ? taken.length : counted.length,
    more: found.ids.length > MOST_READ,
    first: first.map((t) => ({
      id: t.record.id,
      title: recordTitle(own, t.record),
      day: t.near?.slice(0, 10) ?? null,
      begins: t.begins,
    })),
    firstLook: taken.filter(atOnce).length,
    unclear: unclear.length > 0 ? { count: unclear.length, why: unclear[0]! } : null,
    records: factsSeen(pointed, d.registers, l.seen).records,
  };
}

const inOrder = <R extends { id: string }>(rows: readonly R[], ids: readonly string[]): R[] => {
  const by = new Map(rows.map((r) => [r.id, r]));
  return ids.flatMap((id) => by.get(id) ?? []);
};

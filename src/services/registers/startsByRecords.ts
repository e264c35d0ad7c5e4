import {
  comesNear,
  isCounted,
  recordStartProgram,
  startsBy,
  timeOfKind,
  type OfDates,
  type RecordChange,
  type RecordProgram,
  type RecordStartProgram,
} from "@/core/records";
import type { WorkingCalendar } from "@/core/calendar";
import { DEFAULT_CALENDAR } from "@/core/engine";
import type { Facts, StoredRecord } from "@/core/form";
import { startKind } from "@/core/kinds";
import type { Start } from "@/core/route";
import { chainWords, circleWords, untoldStart } from "@/core/words";
import { at, recordStarts } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory, Offered } from "../kernel/directory";
import type { Writing } from "./writing";

/** How often a process may be started by a record within what it itself has led to. */
const MOST_ROUNDS = 3;
/** Starts by records, of whatever process and record, that may lead to each other: each may add the next record. */
const MOST_CHAIN = 100;
const MINUTE = 60_000;

interface Watching {
  offered: Offered;
  start: Start;
  program: RecordStartProgram;
  /** Where it is by a date that it starts. */
  dates: OfDates | null;
}
/** How the condition of a start is asked that is no matter of what is written: of the record as it is, whatever it was before. */
export const AS_IT_IS = { on: "changed", newly: false, columns: null } as const;

/** The starts that take notice of a register, kept as long as what is live and the shapes of registers are. */
const kept = new WeakMap<
  Directory["offered"],
  { registers: Directory["registers"]; by: Map<string, Watching[]> }
>();

function watchingOf(d: Directory, register: string): Watching[] {
  let all = kept.get(d.offered);
  if (all?.registers !== d.registers) {
    all = { registers: d.registers, by: new Map() };
    for (const offered of d.offered)
      for (const start of offered.starts) {
        const kind = startKind(KINDS, start);
        // What people press, and what days bring, takes no notice of what becomes of records.
        const takes = kind.ofRecords?.(start) ?? kind.ofDates?.(start);
        const program = takes ? startProgram(d, start) : null;
        if (!program) continue;
        const dates = kind.ofDates?.(start) ?? null;
        const key = program.of.register;
        all.by.set(key, [...(all.by.get(key) ?? []), { offered, start, program, dates }]);
      }
    kept.set(d.offered, all);
  }
  return all.by.get(register) ?? [];
}

/** Starts made ready, kept as long as the shapes of registers are. */
const programs = new WeakMap<Directory["registers"], WeakMap<Start, RecordStartProgram | null>>();

/** A start by records, their dates, what is pressed on them, or each of them on certain days, ready; null for any other, and where its register is gone. */
export function startProgram(d: Directory, start: Start): RecordStartProgram | null {
  let all = programs.get(d.registers);
  if (!all) programs.set(d.registers, (all = new WeakMap()));
  let program = all.get(start);
  if (program === undefined) all.set(start, (program = programOf(d, start)));
  return program;
}
function programOf(d: Directory, start: Start): RecordStartProgram | null {
  const kind = startKind(KINDS, start);
  const fills = kind.fills?.(start);
  const now = kind.ofDates?.(start) ?? kind.ofPress?.(start) ?? kind.ofEach?.(start);
  const of = kind.ofRecords?.(start) ?? (now && { ...AS_IT_IS, register: now.register, when: now.when });
  const shape = of && d.registers[of.register];
  return of && fills && shape
    ? recordStartProgram(of, fills, shape, { registers: d.registers, kinds: KINDS })
    : null;
}

/**
 * Keeps which of these changes start requests, with the records and in the same transaction, so that none is lost or
 * taken twice. What cannot be told, and what would go round in circles, is kept with the reason, for owners to see.
 */
export async function keepStarts(
  w: Writing,
  p: RecordProgram,
  changes: readonly RecordChange[],
  facts: Facts,
): Promise<void> {
  await recordStarts.insertRecordStarts(w.db, await startsOf(w, p, changes, facts));
}

/** What these changes start, or would have, had they been written. */
export async function startsOf(
  w: Writing,
  p: RecordProgram,
  changes: readonly RecordChange[],
  facts: Facts,
): Promise<recordStarts.NewRecordStart[]> {
  const watching = watchingOf(w.directory, p.shape.key);
  if (watching.length === 0 || w.quietly) return [];
  const rows: recordStarts.NewRecordStart[] = [];
  const marks = watching.some((x) => x.dates) ? await recordStarts.startMarks(w.db) : null;
  for (const c of changes)
    for (const x of watching) {
      const { offered, start, program } = x;
      const pause = offered.paused[start.id];
      if (pause && !pause.keeps) continue;
      const late = x.dates && lateDate(w, x, c, marks!);
      if (x.dates && late === null) continue;
      const starts = startsBy(program, p, late === null ? c : nearOf(c.after!), facts);
      if (starts === false) continue;
      const record = `${p.shape.key}/${c.id}`;
      const rounds = w.chain.filter((y) => y.process === offered.process && y.record === record).length;
      let why: string | null = null;
      if (starts !== true) why = untoldStart(starts.why);
      else if (rounds >= MOST_ROUNDS) why = circleOf(w, offered.process, rounds);
      else if (w.chain.length >= MOST_CHAIN) why = chainWords(MOST_CHAIN);
      rows.push({
        process_key: offered.process,
        start_id: start.id,
        register_key: p.shape.key,
        record_id: c.id,
        did: late === null ? c.did : "near",
        before: late === null ? c.before : null,
        after: c.after,
        at: at(w.at)!,
        behind: w.behind,
        chain: [...w.chain, { process: offered.process, record }],
        // Of very many at once only so many begin in a minute.
        due_at: at(w.at + (w.pace ? Math.floor(w.pace.begun++ / w.pace.aMinute) * MINUTE : 0))!,
        why,
        for_date: late,
        again: x.dates?.again ?? false,
      });
    }
  return rows;
}

/** A record as it is, asked whether a date of it starts something, or something is offered on it. */
export const nearOf = (record: StoredRecord): Pick<RecordChange, "did" | "before" | "after"> => ({
  did: "changed",
  before: null,
  after: record,
});

/** The date a record was given whose day has passed already, where that starts one at once; null for any other. */
function lateDate(
  { directory: d }: Writing,
  { offered, start, dates }: Watching,
  c: RecordChange,
  marks: ReadonlyMap<string, string>,
): string | null {
  if (!dates?.late || !c.after) return null;
  const date = c.after[dates.column];
  const looked = marks.get(`${offered.process}/${start.id}`);
  if (typeof date !== "string" || looked === undefined || date === (c.before?.[dates.column] ?? null))
    return null;
  if (!isCounted(dates, date)) return null;
  const time = comesNear(dates, date, calendarOf(d, offered));
  return time !== null && time <= timeOfKind(looked, time) ? date : null;
}

/** The working calendar a process goes by. */
export const calendarOf = (d: Directory, { calendar }: Pick<Offered, "calendar">): WorkingCalendar =>
  d.calendars.get(calendar ?? DEFAULT_CALENDAR) ?? [...d.calendars.values()][0]!;

/** The circle a process would go round in once more, by the names of those that stand in it. */
function circleOf({ directory: d, chain }: Writing, process: string, rounds: number): string {
  const name = (key: string) => d.offered.find((o) => o.process === key)?.name ?? key;
  const last = chain.map((x) => x.process).lastIndexOf(process);
  return circleWords([...chain.slice(last).map((x) => name(x.process)), name(process)], rounds);
}

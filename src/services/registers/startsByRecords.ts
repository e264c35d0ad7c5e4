import {
  recordStartProgram,
  startsBy,
  type RecordChange,
  type RecordProgram,
  type RecordStartProgram,
} from "@/core/records";
import type { Facts } from "@/core/form";
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
}
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
        const program = startProgram(d, start);
        if (!program) continue;
        const key = program.of.register;
        all.by.set(key, [...(all.by.get(key) ?? []), { offered, start, program }]);
      }
    kept.set(d.offered, all);
  }
  return all.by.get(register) ?? [];
}

/** A start by records, ready; null for any other, and where its register is gone. */
export function startProgram(d: Directory, start: Start): RecordStartProgram | null {
  const kind = startKind(KINDS, start);
  const [of, fills] = [kind.ofRecords?.(start), kind.fills?.(start)];
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
  const watching = watchingOf(w.directory, p.shape.key);
  if (watching.length === 0 || w.quietly) return;
  const rows: recordStarts.NewRecordStart[] = [];
  for (const c of changes)
    for (const { offered, start, program } of watching) {
      const pause = offered.paused[start.id];
      if (pause && !pause.keeps) continue;
      const starts = startsBy(program, p, c, facts);
      if (starts === false) continue;
      const record = `${p.shape.key}/${c.id}`;
      const rounds = w.chain.filter((x) => x.process === offered.process && x.record === record).length;
      let why: string | null = null;
      if (starts !== true) why = untoldStart(starts.why);
      else if (rounds >= MOST_ROUNDS) why = circleOf(w, offered.process, rounds);
      else if (w.chain.length >= MOST_CHAIN) why = chainWords(MOST_CHAIN);
      rows.push({
        process_key: offered.process,
        start_id: start.id,
        register_key: p.shape.key,
        record_id: c.id,
        did: c.did,
        before: c.before,
        after: c.after,
        at: at(w.at)!,
        behind: w.behind,
        chain: [...w.chain, { process: offered.process, record }],
        // Of very many at once only so many begin in a minute.
        due_at: at(w.at + (w.pace ? Math.floor(w.pace.begun++ / w.pace.aMinute) * MINUTE : 0))!,
        why,
      });
    }
  await recordStarts.insertRecordStarts(w.db, rows);
}

/** The circle a process would go round in once more, by the names of those that stand in it. */
function circleOf({ directory: d, chain }: Writing, process: string, rounds: number): string {
  const name = (key: string) => d.offered.find((o) => o.process === key)?.name ?? key;
  const last = chain.map((x) => x.process).lastIndexOf(process);
  return circleWords([...chain.slice(last).map((x) => name(x.process)), name(process)], rounds);
}

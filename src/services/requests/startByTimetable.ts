import { timetableDays } from "@/core/calendar";
import { startKind } from "@/core/kinds";
import { Temporal } from "temporal-polyfill";
import { environment } from "@/core/expression";
import type { OfEach } from "@/core/records";
import type { Start } from "@/core/route";
import { dayWords } from "@/core/words";
import { at, getPool, inTransaction, notices, processes, recordStarts, registers, type Client } from "@/db";
import { KINDS } from "@/kinds";
import type { DaysOf } from "@/core/kinds";
import { daysOfRule } from "@/starts/timetable/daysOfRule";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, type Directory, type Offered } from "../kernel/directory";
import { keepStarting } from "../registers/keepStarting";
import { recordProgramOf } from "../registers/recordPrograms";
import { calendarOf, startProgram } from "../registers/startsByRecords";
import { engineFacts } from "./facts";
import { comeDay } from "../registers/lookDates";
import { makeRequest } from "./makeRequest";
import { badForm } from "./notStarted";
import { whyNot } from "./startFromRecords";

/** Records looked at by one statement. */
const AT_ONCE = 500;

/**
 * Starts what timetables have come to since the last look: one request for each start, also where several of its days
 * were missed while nobody looked. Called by a worker every minute; twice at once starts nothing twice.
 * @returns how many requests were started
 */
export const startByTimetable = defineView(["run jobs"], async (c): Promise<{ made: number }> => {
  if (!c.may({ action: "run jobs" })) return { made: 0 };
  const d = await loadDirectory(getPool());
  let made = 0;
  for (const offered of d.offered)
    for (const start of offered.starts) {
      const days = startKind(KINDS, start).ofDays?.(start);
      if (days) made += await inTransaction((db) => look(db, d, offered, start, days));
    }
  return { made };
});

async function look(db: Client, d: Directory, offered: Offered, start: Start, days: DaysOf): Promise<number> {
  const { id } = start;
  const now = await nowMs(db);
  const calendar = calendarOf(d, offered);
  const day = comeDay(now, calendar, days.at);
  // What came before it was released is nothing that was missed.
  const looked = Temporal.PlainDate.from(
    await recordStarts.holdMark(db, offered.process, id, day.toString()),
  );
  if (Temporal.PlainDate.compare(looked, day) >= 0) return 0;
  const pause = offered.paused[id];
  if (pause?.keeps) return 0;
  const last = pause
    ? undefined
    : timetableDays(days.days, days.closed, looked, day, calendar, daysOfRule).at(-1);
  await recordStarts.setMark(db, offered.process, id, day.toString());
  if (last === undefined) return 0;
  const each = startKind(KINDS, start).ofEach?.(start);
  if (each) return beginEach(db, d, { offered, start, each }, last.toString(), now);
  return (await begin(db, offered, id, last.toString(), now)) ? 1 : 0;
}

/**
 * Keeps which records start a request on a day, each once, to be made as those that records start by themselves; what
 * cannot be told of one is kept with the reason.
 * @returns how many
 */
async function beginEach(
  db: Client,
  d: Directory,
  { offered, start, each }: { offered: Offered; start: Start; each: OfEach },
  day: string,
  now: number,
): Promise<number> {
  const program = startProgram(d, start);
  const p = recordProgramOf(d, each.register);
  const around = { registers: d.registers, kinds: KINDS };
  const split =
    p && each.when !== null
      ? registers.splitCondition(each.when, p.shape, around, {})
      : { conditions: [], rest: null };
  if (!program || !p || "why" in split) {
    const why = "why" in split ? split.why : "The register it goes through is not there any more.";
    await tellOwners(db, offered, `timetable:${offered.process}:${start.id}:${day}`, why, now);
    return 0;
  }
  const none = engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now);
  const env = environment({ get: () => undefined }, none);
  let kept = 0;
  for (let behind = "0"; ;) {
    const ids = await registers.findRecordIds(db, p.shape, {
      where: [
        ...split.conditions.map((x) => (bind: (v: unknown) => string) => x.where(env, bind)),
        (bind) => `t.id > ${bind(behind)}`,
      ],
      sort: [],
      backwards: false,
      limit: AT_ONCE,
    });
    if (ids.length === 0) return kept;
    behind = ids.at(-1)!;
    const rows = await registers.recordsByIds(db, p.shape, ids);
    const starting = {
      offered,
      id: start.id,
      program,
      p,
      did: "day" as const,
      dateOf: () => day,
      again: false,
    };
    kept += await keepStarting(db, d, starting, rows, now);
  }
}

/** Makes the request of a day; what keeps it from beginning is told to its owners. */
async function begin(
  db: Client,
  { process, name }: Offered,
  id: string,
  day: string,
  now: number,
): Promise<boolean> {
  const live = await processes.liveRelease(db, process, true);
  if (!live?.released.starts.some((s) => s.id === id)) return false;
  await db.query("savepoint begun");
  try {
    await makeRequest(db, live, {
      requester: {
        kind: "process",
        key: process,
        name: live.released.name,
        behind: null,
        because: dayWords(day),
      },
      actor: null,
      data: {},
      startKey: `timetable ${process} ${id} ${day}`,
      startHash: null,
      occasion: undefined,
    }).catch((e: unknown) => {
      throw badForm(e, live.released) ?? e;
    });
    return true;
  } catch (e) {
    const why = await whyNot(e);
    await db.query("rollback to savepoint begun");
    await tellOwners(db, { process, name }, `timetable:${process}:${id}:${day}`, why, now);
    return false;
  }
}

async function tellOwners(
  db: Client,
  { process, name }: Pick<Offered, "process" | "name">,
  effectKey: string,
  why: string,
  now: number,
): Promise<void> {
  for (const person of await processes.ownersOf(db, process))
    await notices.insertNotice(db, {
      person,
      request: null,
      effectKey,
      subject: `${name} was not started`,
      body: why,
      at: at(now)!,
    });
}

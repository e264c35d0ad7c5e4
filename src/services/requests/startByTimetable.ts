import { timetableDays } from "@/core/calendar";
import { startKind } from "@/core/kinds";
import { Temporal } from "temporal-polyfill";
import { dayWords } from "@/core/words";
import { at, getPool, inTransaction, notices, processes, recordStarts, type Client } from "@/db";
import { KINDS } from "@/kinds";
import type { DaysOf } from "@/core/kinds";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, type Directory, type Offered } from "../kernel/directory";
import { calendarOf } from "../registers/startsByRecords";
import { comeDay } from "../registers/lookDates";
import { makeRequest } from "./makeRequest";
import { badForm } from "./notStarted";
import { whyNot } from "./startFromRecords";

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
      if (days && (await inTransaction((db) => look(db, d, offered, start.id, days)))) made++;
    }
  return { made };
});

async function look(db: Client, d: Directory, offered: Offered, id: string, days: DaysOf): Promise<boolean> {
  const now = await nowMs(db);
  const calendar = calendarOf(d, offered);
  const day = comeDay(now, calendar, days.at);
  // What came before it was released is nothing that was missed.
  const looked = Temporal.PlainDate.from(
    await recordStarts.holdMark(db, offered.process, id, day.toString()),
  );
  if (Temporal.PlainDate.compare(looked, day) >= 0) return false;
  const pause = offered.paused[id];
  if (pause?.keeps) return false;
  const last = pause ? undefined : timetableDays(days.days, days.closed, looked, day, calendar).at(-1);
  await recordStarts.setMark(db, offered.process, id, day.toString());
  return last !== undefined && begin(db, offered, id, last.toString(), now);
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
  if (!live?.definition.starts.some((s) => s.id === id)) return false;
  await db.query("savepoint begun");
  try {
    await makeRequest(db, live, {
      requester: {
        kind: "process",
        key: process,
        name: live.definition.name,
        behind: null,
        because: dayWords(day),
      },
      actor: null,
      data: {},
      startKey: `timetable ${process} ${id} ${day}`,
      startHash: null,
      occasion: undefined,
    }).catch((e: unknown) => {
      throw badForm(e, live.definition) ?? e;
    });
    return true;
  } catch (e) {
    const why = await whyNot(e);
    await db.query("rollback to savepoint begun");
    for (const person of await processes.ownersOf(db, process))
      await notices.insertNotice(db, {
        person,
        request: null,
        effectKey: `timetable:${process}:${id}:${day}`,
        subject: `${name} was not started`,
        body: why,
        at: at(now)!,
      });
    return false;
  }
}

import { Temporal } from "temporal-polyfill";
import {
  cameNear,
  timeBefore,
  timeCome,
  timeOfKind,
  type OfDates,
  type RecordProgram,
  type RecordStartProgram,
} from "@/core/records";
import type { WorkingCalendar } from "@/core/calendar";
import { startKind } from "@/core/kinds";
import { getPool, inTransaction, recordStarts, registers, type Client, type RecordRow } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, type Directory, type Offered } from "../kernel/directory";
import { keepStarting } from "./keepStarting";
import { recordProgramOf } from "./recordPrograms";
import { calendarOf, startProgram } from "./startsByRecords";

/** Records looked at by one statement. */
const AT_ONCE = 500;

/**
 * Looks which dates of records have come near since the last look, for each start by dates that is live; what was
 * missed while nobody looked is caught up, once. Called by a worker every minute; twice at once changes nothing.
 * @returns how many requests are to be started
 */
export const lookDates = defineView(["run jobs"], async (c): Promise<{ near: number }> => {
  if (!c.may({ action: "run jobs" })) return { near: 0 };
  const d = await loadDirectory(getPool());
  let near = 0;
  for (const offered of d.offered)
    for (const start of offered.starts) {
      const dates = startKind(KINDS, start).ofDates?.(start);
      const program = dates && startProgram(d, start);
      const p = dates && recordProgramOf(d, dates.register);
      if (dates && program && p)
        near += await inTransaction((db) => look(db, d, { offered, id: start.id, dates, program, p }));
    }
  return { near };
});

interface Looking {
  offered: Offered;
  id: string;
  dates: OfDates;
  program: RecordStartProgram;
  p: RecordProgram;
}

/** The last time that has come for a start by dates, by the zone of its calendar. */
export const comeBy = (dates: OfDates, now: number, calendar: WorkingCalendar): string =>
  timeCome(dates, Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(calendar.zone));

/** The last day that has come, by a calendar's zone: before its time of day one has not come yet. */
export const comeDay = (now: number, calendar: WorkingCalendar, at: string): Temporal.PlainDate =>
  Temporal.PlainDate.from(
    timeCome(
      { days: 0, working: false, clock: null, at },
      Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(calendar.zone),
    ),
  );

async function look(db: Client, d: Directory, l: Looking): Promise<number> {
  const { offered, id, dates, p } = l;
  const now = await nowMs(db);
  const calendar = calendarOf(d, offered);
  const come = comeBy(dates, now, calendar);
  const mark = await recordStarts.holdMark(db, offered.process, id, timeBefore(come));
  // It may have been counted otherwise until a release: a day is its beginning, a moment of it the day.
  const looked = timeOfKind(mark, come);
  if (looked >= come) return 0;
  const pause = offered.paused[id];
  // It is looked from here again when it goes on.
  if (pause?.keeps) return 0;
  const between = pause ? null : cameNear(dates, looked, come, calendar);
  let near = 0;
  if (between) {
    for (let behind = "0"; ;) {
      const rows = await registers.recordsDated(db, p.shape, dates.column, between, behind, AT_ONCE);
      if (rows.length === 0) break;
      const { again, column } = dates;
      const dateOf = (r: RecordRow) => String(r[column]);
      near += await keepStarting(db, d, { ...l, did: "near", dateOf, again }, rows, now);
      behind = rows.at(-1)!.id;
    }
  }
  await recordStarts.setMark(db, offered.process, id, come);
  return near;
}

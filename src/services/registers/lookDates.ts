import { Temporal } from "temporal-polyfill";
import { datesNear, type OfDates, type RecordProgram, type RecordStartProgram } from "@/core/records";
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

/** The last day that has come, by a calendar's zone: before its time of day one has not come yet. */
export function comeDay(now: number, calendar: WorkingCalendar, time: string): Temporal.PlainDate {
  const local = Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(calendar.zone);
  const come = Temporal.PlainTime.compare(local.toPlainTime(), Temporal.PlainTime.from(time)) >= 0;
  return come ? local.toPlainDate() : local.toPlainDate().subtract({ days: 1 });
}

async function look(db: Client, d: Directory, l: Looking): Promise<number> {
  const { offered, id, dates, p } = l;
  const now = await nowMs(db);
  const calendar = calendarOf(d, offered);
  const day = comeDay(now, calendar, dates.at);
  const first = day.subtract({ days: 1 }).toString();
  const looked = Temporal.PlainDate.from(await recordStarts.holdMark(db, offered.process, id, first));
  if (Temporal.PlainDate.compare(looked, day) >= 0) return 0;
  const pause = offered.paused[id];
  // It is looked from here again when it goes on.
  if (pause?.keeps) return 0;
  const range = pause ? null : datesNear(dates, looked, day, calendar);
  let near = 0;
  if (range) {
    const between = { after: range.after.toString(), to: range.to.toString() };
    for (let behind = "0"; ;) {
      const rows = await registers.recordsDated(db, p.shape, dates.column, between, behind, AT_ONCE);
      if (rows.length === 0) break;
      const { again, column } = dates;
      const dateOf = (r: RecordRow) => String(r[column]);
      near += await keepStarting(db, d, { ...l, did: "near", dateOf, again }, rows, now);
      behind = rows.at(-1)!.id;
    }
  }
  await recordStarts.setMark(db, offered.process, id, day.toString());
  return near;
}

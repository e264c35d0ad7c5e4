import { workingBetween, type WorkingCalendar } from "../calendar";

export interface TimeLeft {
  /** "1 working day, 3 h left", "2 working h over". */
  text: string;
  tone: "calm" | "soon" | "late";
}

const HOUR = 3_600_000;
/** Below this much open time a limit counts as due soon. */
const SOON = 4 * HOUR;

/** How long until a limit, or since, in working time: what counts for whoever has to answer. */
export function timeLeft(calendar: WorkingCalendar, now: number, due: number): TimeLeft {
  const late = due < now;
  const ms = Math.abs(workingBetween(calendar, now, due));
  const day = dayLength(calendar);
  const days = Math.floor(ms / day);
  const hours = Math.floor((ms - days * day) / HOUR);
  const minutes = Math.floor(ms / 60_000);
  let amount = hours > 0 ? `${hours} working h` : `${minutes} min`;
  if (days > 0)
    amount = `${days} working ${days === 1 ? "day" : "days"}${hours > 0 && days < 5 ? `, ${hours} h` : ""}`;
  if (late) return { text: `${amount} over`, tone: "late" };
  return { text: `${amount} left`, tone: ms <= SOON ? "soon" : "calm" };
}

function dayLength(calendar: WorkingCalendar): number {
  const days = Object.values(calendar.week)
    .map((spans) => spans.reduce((sum, [a, b]) => sum + minutesOf(b) - minutesOf(a), 0))
    .filter((m) => m > 0);
  return days.length > 0 ? Math.max(...days) * 60_000 : 8 * HOUR;
}
const minutesOf = (wall: string): number => Number(wall.slice(0, 2)) * 60 + Number(wall.slice(3));

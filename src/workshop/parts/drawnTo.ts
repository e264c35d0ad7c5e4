import { lengthBetween, lengthInWords, type Length, type WorkingCalendar } from "@/core/calendar";
import type { Rung } from "@/core/route";

/** Where a rung stands that was drawn to a moment of the strip, in the unit it is told in. */
export function rungDrawnTo(
  rung: Rung,
  calendar: WorkingCalendar,
  due: number,
  to: number,
): { when: Rung["when"]; length: Length | null } {
  const { amount, unit } = lengthBetween(calendar, due, to, rung.length?.unit ?? "working hours");
  if (amount === 0) return { when: "at", length: null };
  return { when: amount < 0 ? "before" : "after", length: { amount: Math.abs(amount), unit } };
}

/** The same in words: "4 working hours before the limit". */
export const drawnInWords = ({ when, length }: ReturnType<typeof rungDrawnTo>): string =>
  length ? `${lengthInWords(length)} ${when} the limit` : "at the limit";

/** How long a limit is that was drawn to a moment; null where that is no time. */
export function limitDrawnTo(
  length: Length,
  calendar: WorkingCalendar,
  asked: number,
  to: number,
): Length | null {
  const drawn = lengthBetween(calendar, asked, to, length.unit);
  return drawn.amount > 0 ? drawn : null;
}

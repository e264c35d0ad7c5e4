import type { WorkingCalendar } from "../calendar";
import type { Facts } from "../form";

/** What the engine needs to know of the office at the time of a command; loaded by the caller. */
export interface EngineFacts extends Facts {
  /** Epoch milliseconds of the command. */
  at: number;
  membersOf(group: string): string[];
  /** Person ids, most specific first. `place` is a site or department; null for any. */
  dutyHolders(duty: string, place: string | null): string[];
  managerId(person: string): string | null;
  /** Who answers while a person is away now; null when present or when nobody covers. */
  coverFor(person: string): string | null;
  isActive(person: string): boolean;
  /** A person's own calendar, when they have one. */
  calendarOf(person: string): WorkingCalendar | null;
  calendar(key: string | undefined): WorkingCalendar;
}

import { workingCalendar } from "@/contracts";
import type { WorkingCalendar } from "@/core/calendar";
import { DEFAULT_CALENDAR } from "@/core/engine";
import { inTransaction, officeEdits } from "@/db";
import { isPlaceOfHolidays } from "@/outside/holidays";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keeping } from "./keepPeople";
import { keyFor } from "./keyFor";

const MOST_HOLIDAYS = 2000;
const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/**
 * Makes a working calendar or changes it. Limits set before keep the moments they were given.
 * @param key null for a new one
 */
export const putCalendar = defineUseCase(
  ["keep people"],
  (c, key: string | null, sent: Omit<WorkingCalendar, "key">): Promise<{ key: string }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "change working calendars");
      if (key !== null && !d.calendars.has(key))
        throw new Failed({ code: "not-found", data: { what: "working calendar", id: key } });
      const name = sent.name.normalize("NFC").trim().replace(/\s+/g, " ");
      if (name === "" || name.length > 80)
        throw wrong("Name", "A calendar has a name of 1 to 80 characters, for example: Office hours.");
      const own = key ?? keyFor(name, (k) => d.calendars.has(k), "calendar");
      const holidays = [...new Set(sent.holidays)].sort();
      if (holidays.length > MOST_HOLIDAYS)
        throw wrong("Holidays", `At most ${MOST_HOLIDAYS} can be entered.`);
      const parsed = workingCalendar.safeParse({ ...sent, key: own, name, holidays });
      if (!parsed.success) {
        const issue = parsed.error.issues[0]!;
        throw wrong(issue.path[0] === "week" ? "Hours" : String(issue.path[0] ?? ""), issue.message);
      }
      if (!Object.values(parsed.data.week).some((spans) => spans.length > 0))
        throw wrong(
          "Hours",
          "Nobody would ever work: give at least one weekday hours, for example Monday 09:00 to 17:00.",
        );
      const place = parsed.data.publicHolidays;
      if (place && !(await isPlaceOfHolidays(place)))
        throw wrong(
          "Public holidays",
          `Those of ${[place.country, place.region].filter(Boolean).join(", ")} are not known. Choose a country of the list.`,
        );
      await officeEdits.putCalendar(db, own, parsed.data);
      await noteEntry(c.actor, { what: "calendar changed", data: { calendar: name } }, db);
      return { key: own };
    }),
);

export const removeCalendar = defineUseCase(["keep people"], (c, key: string): Promise<null> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "remove working calendars");
    const calendar = d.calendars.get(key);
    if (!calendar) throw new Failed({ code: "not-found", data: { what: "working calendar", id: key } });
    if (key === DEFAULT_CALENDAR)
      throw wrong("", `“${calendar.name}” holds wherever no other is named, so it stays.`);
    const users = [...d.people.values()].filter((p) => p.calendar_key === key).map((p) => p.name);
    const named = [...users, ...(await officeEdits.processesNaming(db, key))];
    if (named.length > 0)
      throw wrong(
        "",
        `“${calendar.name}” is used by ${named.slice(0, 5).join(", ")}${named.length > 5 ? ` and ${named.length - 5} more` : ""}; give them another first.`,
      );
    await officeEdits.deleteCalendar(db, key);
    await noteEntry(c.actor, { what: "calendar changed", data: { calendar: calendar.name } }, db);
    return null;
  }),
);

import { Temporal } from "temporal-polyfill";
import { at, getPool, inTransaction, jobs, officeEdits, people } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";

const MOST_DAYS = 731;
const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/**
 * The moments between which somebody is away from the first to the last day, both included, in their own time zone.
 * @returns null where one of them is no date or they stand the wrong way round
 */
export function awayBetween(
  first: string,
  last: string,
  zone: string,
): { starts: number; ends: number } | null {
  try {
    const from = Temporal.PlainDate.from(first);
    const until = Temporal.PlainDate.from(last);
    if (Temporal.PlainDate.compare(from, until) > 0) return null;
    const start = (d: Temporal.PlainDate) => d.toZonedDateTime(zone).epochMilliseconds;
    return { starts: start(from), ends: start(until.add({ days: 1 })) };
  } catch {
    return null;
  }
}

export interface Away {
  id: string;
  /** First and last day, as dates in the person's zone. */
  first: string;
  last: string;
  cover: string | null;
  /** Who answers in a duty of theirs, where that is another. */
  covers: { duty: string; cover: string }[];
  /** What is open when it begins stays with them. */
  stays: boolean;
}
const day = (ms: number, zone: string) =>
  Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).toPlainDate().toString();

/** When somebody is away, or was. */
export const awayTimes = defineView(["see office"], async (c, person: string): Promise<Away[]> => {
  if (!c.may({ action: "see office" })) return [];
  const db = getPool();
  const d = await loadDirectory(db);
  const zone = d.people.get(person)?.zone ?? "UTC";
  return (await officeEdits.absencesOf(db, person)).map((a) => ({
    id: a.id,
    first: day(a.starts, zone),
    last: day(a.ends - 1, zone),
    cover: a.cover_id && personName(d, a.cover_id),
    covers: a.covers.map((c) => ({ duty: c.duty, cover: personName(d, c.cover) })),
    stays: a.stays,
  }));
});

/** Duties in which somebody else than usual may answer for one. */
const MOST_COVERS = 20;
const MOST_DUTY = 200;

/**
 * Enters that somebody is away, and who answers for them; one's own, or anybody's for those who keep people.
 * @param covers who answers in a duty of theirs, where that is another
 * @param stays whether what is open when it begins stays with them, and waits
 */
export const addAway = defineUseCase(
  ["set absence"],
  (
    c,
    person: string,
    first: string,
    last: string,
    cover: string | null,
    covers: readonly { duty: string; cover: string }[] = [],
    stays: boolean = false,
  ): Promise<null> =>
    inTransaction(async (db) => {
      c.must(
        { action: "set absence", person },
        { code: "not-allowed", data: { action: "say when somebody else is away" } },
      );
      // Two at once could otherwise both find no overlap.
      await officeEdits.lockPeople(db);
      const d = await loadDirectory(db);
      const p = d.people.get(person);
      if (!p?.active)
        throw new Failed({ code: "not-found", data: { what: "person who is here", id: person } });
      const span = awayBetween(first, last, p.zone);
      if (!span)
        throw wrong(
          "Away",
          "Give the first and the last day, the last not before the first, for example 2026-12-21 and 2027-01-02.",
        );
      if (span.ends - span.starts > MOST_DAYS * 86_400_000)
        throw wrong("Away", "One absence is two years at most.");
      if (span.ends <= (await nowMs(db))) throw wrong("Away", "That is over already.");
      for (const id of [...(cover === null ? [] : [cover]), ...covers.map((x) => x.cover)])
        if (id === person || !d.people.get(id)?.active)
          throw wrong("Cover", "Whoever covers is somebody else who is here.");
      const duties = covers.map((x) => x.duty.trim());
      if (duties.length > MOST_COVERS)
        throw wrong("Cover", `Duties with a cover of their own are ${MOST_COVERS} at most.`);
      if (duties.some((x) => x === "" || x.length > MOST_DUTY))
        throw wrong("Cover", "Say which duty is meant, for example Registrar.");
      const twice = duties.find((x, i) => duties.indexOf(x) !== i);
      if (twice !== undefined)
        throw wrong("Cover", `“${twice}” is there twice: one person answers for you in it.`);
      const other = (await officeEdits.absencesOf(db, person)).find(
        (a) => a.starts < span.ends && a.ends > span.starts,
      );
      if (other)
        throw wrong(
          "Away",
          `${day(other.starts, p.zone)} to ${day(other.ends - 1, p.zone)} is entered already and overlaps; remove that one first.`,
        );
      await people.insertAbsence(db, {
        person,
        starts: at(span.starts)!,
        ends: at(span.ends)!,
        cover,
        covers: covers.map((x) => ({ duty: x.duty.trim(), cover: x.cover })),
        stays,
      });
      await noteEntry(c.actor, { what: "absence set", data: { person, cover } }, db);
      await jobs.lookWhoIsThere(db);
      return null;
    }),
);

export const removeAway = defineUseCase(["set absence"], (c, person: string, id: string): Promise<null> =>
  inTransaction(async (db) => {
    c.must(
      { action: "set absence", person },
      { code: "not-allowed", data: { action: "say when somebody else is away" } },
    );
    const known = /^\d{1,18}$/.test(id) && (await officeEdits.deleteAbsence(db, person, id));
    if (!known) throw new Failed({ code: "not-found", data: { what: "absence", id } });
    await noteEntry(c.actor, { what: "absence removed", data: { person } }, db);
    return null;
  }),
);

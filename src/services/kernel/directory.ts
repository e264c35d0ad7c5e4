import type { WorkingCalendar } from "@/core/calendar";
import type { OfficeData } from "@/core/engine";
import type { PersonFacts, RegisterShape } from "@/core/form";
import { officeFactsOf } from "@/core/problems";
import { type OfficeFacts } from "@/core/kinds";
import { workingCalendar } from "@/contracts";
import { people, registers, ROLE_HOLDERS, settings, type Db, type PersonRow } from "@/db";

export interface Directory {
  version: string;
  people: ReadonlyMap<string, PersonRow>;
  /** Accounts of other programs: never asked, never picked, but named where they did something. */
  services: ReadonlyMap<string, people.ServiceRow>;
  facts: Readonly<Record<string, PersonFacts>>;
  /** Manager's id by person's id. */
  managers: Readonly<Record<string, string>>;
  groups: ReadonlyMap<string, { key: string; name: string; members: string[] }>;
  absences: readonly people.AbsenceRow[];
  duties: readonly { duty: string; person: string; place: string | null }[];
  calendars: ReadonlyMap<string, WorkingCalendar>;
  registers: Readonly<Record<string, RegisterShape>>;
  /** The same as plain data, for the engine here and in browsers. */
  office: OfficeData;
}

let cached: Directory | null = null;

/** People, groups, duties, calendars and register shapes; read again when any of them changed.
 * @param known the directory's version, where the caller has just read it */
export async function loadDirectory(db: Db, known?: string): Promise<Directory> {
  const version = known ?? String(await settings.readSetting(db, "directory_version"));
  if (cached?.version === version) return cached;
  const everyone = await people.allPeople(db);
  const programs = await people.allServices(db);
  const shapes = await registers.allRegisters(db);
  const roles = shapes.find((s) => s.key === ROLE_HOLDERS);
  const holders = roles
    ? (
        await registers.findRecords(
          db,
          roles,
          {},
          { search: "", filters: [], sort: null, offset: 0, limit: 5000 },
        )
      ).rows
    : [];
  const absences = await people.allAbsences(db);
  const groups = await people.allGroups(db);
  const duties = holders.map((h) => ({
    duty: String(h["duty"]),
    person: String(h["person"]),
    place: (h["site"] ?? h["department"] ?? null) as string | null,
  }));
  const calendars = (await people.allCalendars(db)).map((c) => workingCalendar.parse(c));
  cached = {
    version,
    office: {
      people: everyone.map((p) => ({
        id: p.id,
        name: p.name,
        manager: p.manager_id,
        calendar: p.calendar_key,
        active: p.active,
      })),
      groups,
      duties,
      calendars,
      absences: absences.map((a) => ({
        person: a.person_id,
        starts: a.starts,
        ends: a.ends,
        cover: a.cover_id,
      })),
    },
    people: new Map(everyone.map((p) => [p.id, p])),
    services: new Map(programs.map((p) => [p.id, p])),
    facts: Object.fromEntries([
      ...everyone.map((p) => [
        p.id,
        {
          id: p.id,
          name: p.name,
          email: p.email,
          jobTitle: p.job_title,
          department: p.department,
          site: p.site,
        },
      ]),
      ...programs.map((p) => [
        p.id,
        {
          id: p.id,
          name: p.name,
          email: "",
          jobTitle: p.purpose,
          department: "",
          site: "",
          service: true as const,
        },
      ]),
    ]),
    managers: Object.fromEntries(everyone.flatMap((p) => (p.manager_id ? [[p.id, p.manager_id]] : []))),
    groups: new Map(groups.map((g) => [g.key, g])),
    absences,
    duties,
    calendars: new Map(calendars.map((c) => [c.key, c])),
    registers: Object.fromEntries(shapes.map((s) => [s.key, s])),
  };
  return cached;
}

export const personName = (d: Directory, id: string): string =>
  (d.people.get(id) ?? d.services.get(id))?.name ?? id;

export const officeFacts = (d: Directory): OfficeFacts => officeFactsOf(d.office);

/** Everybody else who works here, to hand something to. */
export const colleaguesOf = (
  d: Pick<Directory, "people">,
  person: string,
): { id: string; name: string; jobTitle: string }[] =>
  [...d.people.values()]
    .filter((p) => p.active && p.id !== person)
    .map((p) => ({ id: p.id, name: p.name, jobTitle: p.job_title }));

/** A register by the key that stands in an address, whatever that is: "constructor" is none. */
export const registerOf = (d: Directory, key: string): RegisterShape | undefined =>
  Object.hasOwn(d.registers, key) ? d.registers[key] : undefined;

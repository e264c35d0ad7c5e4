import { KINDS } from "@/kinds";
import { HEAD } from "@/rules/shapes";
import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "../calendar";
import { factsFrom, type FactsData, type PersonFacts } from "../form";
import type { Value } from "../expression";
import { NO_PROCEDURES, type EngineFacts } from "./facts";
import { peopleKnown } from "./peopleKnown";
import { loadsKey } from "./loads";

/** A small made-up office for tests of the engine: no clock, no database. */
export const OFFICE_HOURS: WorkingCalendar = {
  key: "office",
  name: "Office hours",
  zone: "Europe/Dublin",
  week: Object.fromEntries(
    ["1", "2", "3", "4", "5"].map((d) => [d, [["09:00", "17:00"]]]),
  ) as unknown as WorkingCalendar["week"],
  holidays: ["2026-03-17"],
};

const person = (id: string, department = "Registry"): PersonFacts => ({
  id,
  name: id[0]!.toUpperCase() + id.slice(1),
  email: `${id}@quillhaven.example`,
  jobTitle: "Officer",
  department,
  site: "Tower House",
});
/** Those of the office of tests, by id. */
export const IDS = ["una", "brendan", "carmel", "declan", "eithne", "fergus"];
const GUARDS = ["declan", "fergus"];
export const PEOPLE = IDS.map((id) => person(id, GUARDS.includes(id) ? "Security" : "Registry"));
const MANAGERS: Record<string, string> = {
  una: "brendan",
  brendan: "eithne",
  carmel: "brendan",
  declan: "eithne",
  fergus: "carmel",
};

/** What is known of them, as the office tells it. */
const KNOWN = peopleKnown(
  PEOPLE.map(({ id, name, email, jobTitle, department, site }) => ({
    id,
    values: new Map<string, Value>([
      ["Name", name],
      ["Job title", jobTitle],
      ["Department", department],
      ["Site", site],
      ["Email", email],
      ["Manager", null],
      ["Groups", []],
      ["Duties", id === "declan" ? ["Guard"] : []],
    ]),
  })),
);

/** More people than one step may ask at once. */
const CROWD = Array.from({ length: 2001 }, (_, i) => `crowd-${i}`);

export function officeFacts(
  at: number,
  more: Partial<FactsData> = {},
  away: Record<string, string> = {},
  left: ReadonlySet<string> = new Set(),
): EngineFacts {
  const data: FactsData = {
    people: Object.fromEntries(PEOPLE.map((p) => [p.id, p])),
    registers: {},
    records: {},
    ...more,
  };
  const now = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO("Europe/Dublin");
  return {
    ...factsFrom(data, { now }, KINDS.fields),
    at,
    hidesOfRecords: () => false,
    hidesFromActor: () => false,
    everybody: () => [],
    peopleKnown: () => KNOWN,
    membersOf: (g) => {
      if (g === "crowd") return CROWD;
      return g === "registry" ? ["carmel", "declan", "fergus"] : [];
    },
    dutyHolders: (d, place) => {
      if (d === "Director") return ["eithne"];
      if (d === "Guard") return ["declan"];
      if (d === HEAD) return place === "Security" ? ["declan"] : ["brendan"];
      return [];
    },
    managerId: (p) => MANAGERS[p] ?? null,
    // "carmel as Guard" is who answers for them in that.
    coverFor: (p, duty) => away[`${p} as ${duty}`] ?? away[p] ?? null,
    isAway: (p) => Object.keys(away).some((k) => k.split(" ")[0] === p),
    keepsOpen: (p) => away[`${p} keeps`] !== undefined,
    personAt: (email) => PEOPLE.find((x) => x.email === email.toLowerCase())?.id ?? null,
    emailOf: (p) => PEOPLE.find((x) => x.id === p)?.email ?? "",
    loads: (asked) => (data.loads ? (data.loads[loadsKey(asked)] ?? {}) : null),
    isActive: (p) => (PEOPLE.some((x) => x.id === p) || p.startsWith("crowd-")) && !left.has(p),
    calendarOf: () => null,
    calendar: () => OFFICE_HOURS,
    procedures: NO_PROCEDURES,
  };
}

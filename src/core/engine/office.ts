import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "../calendar";
import type { ContextValue } from "../expression";
import { emailKey, factsFrom, holdersOf, personValue, type FactsData } from "../form";
import type { FieldKinds } from "../kinds";
import type { Outlet } from "../route";
import { colleagueValues } from "./colleagueValues";
import { NO_PROCEDURES, type Colleague, type EngineFacts, type Procedures } from "./facts";
import { peopleKnown, type PeopleKnown } from "./peopleKnown";
import { loadsKey, NeedsLoads } from "./loads";

/** The office as plain data: the same on the server, in the Workshop and in rehearsals. */
export interface OfficeData {
  people: readonly {
    id: string;
    name: string;
    manager: string | null;
    calendar: string | null;
    active: boolean;
    jobTitle?: string;
  }[];
  groups: readonly { key: string; name: string; members: readonly string[] }[];
  /** `place` is a site or department; null where a duty is held everywhere. */
  duties: readonly { duty: string; person: string; place: string | null }[];
  absences: readonly {
    person: string;
    starts: number;
    ends: number;
    cover: string | null;
    /** Who answers in a duty of theirs, where that is another; absent for none. */
    covers?: readonly { duty: string; cover: string }[];
    /** What is open when it begins stays with them. */
    stays?: true;
  }[];
  calendars: readonly WorkingCalendar[];
  mailboxes: readonly { address: string; name: string }[];
  /** What the chat room is called; absent where there is none. */
  chat?: string;
  /** Where documents can be brought; absent where nothing is known of it. */
  outlets?: readonly Outlet[];
  /** Keys of the registers of which something is open to people outside. */
  opened?: readonly string[];
}

export const DEFAULT_CALENDAR = "office";

/** Everybody who is here; worked out once an office, and only where somebody asks. */
const colleagues = new WeakMap<OfficeData, readonly Colleague[]>();
function colleaguesIn(office: OfficeData): readonly Colleague[] {
  const known = colleagues.get(office);
  if (known) return known;
  const gather = (pairs: Iterable<readonly [string, string]>) => {
    const by = new Map<string, Set<string>>();
    for (const [person, name] of pairs) by.set(person, (by.get(person) ?? new Set()).add(name));
    return (person: string) => [...(by.get(person) ?? [])];
  };
  const groups = gather(office.groups.flatMap((g) => g.members.map((m) => [m, g.name] as const)));
  const duties = gather(office.duties.map((h) => [h.person, h.duty] as const));
  const all = office.people
    .filter((p) => p.active)
    .map((p) => ({ id: p.id, manager: p.manager, groups: groups(p.id), duties: duties(p.id) }));
  colleagues.set(office, all);
  return all;
}

/** By what is known of people as well: a browser may be told less of them than the server. */
const peopleOfOffices = new WeakMap<OfficeData, WeakMap<FactsData["people"], PeopleKnown>>();
function knownIn(
  office: OfficeData,
  people: FactsData["people"],
  person: (id: string) => ContextValue,
): PeopleKnown {
  const of = peopleOfOffices.get(office) ?? new WeakMap<FactsData["people"], PeopleKnown>();
  peopleOfOffices.set(office, of);
  const kept = of.get(people);
  if (kept) return kept;
  const known = peopleKnown(
    colleaguesIn(office).map((c) => ({ id: c.id, values: colleagueValues(c, person) })),
  );
  of.set(people, known);
  return known;
}

interface Index {
  people: ReadonlyMap<string, OfficeData["people"][number]>;
  calendars: ReadonlyMap<string, WorkingCalendar>;
}
const indexes = new WeakMap<OfficeData, Index>();
function indexOf(office: OfficeData): Index {
  let i = indexes.get(office);
  if (!i) {
    i = {
      people: new Map(office.people.map((p) => [p.id, p])),
      calendars: new Map(office.calendars.map((c) => [c.key, c])),
    };
    indexes.set(office, i);
  }
  return i;
}

/** People by their addresses; worked out once for all who ask of the same people. */
const addresses = new WeakMap<FactsData["people"], ReadonlyMap<string, string>>();
function addressesOf(people: FactsData["people"]): ReadonlyMap<string, string> {
  const known = addresses.get(people);
  if (known) return known;
  const all = Object.values(people).filter((p) => p.email !== "");
  const by = new Map(all.map((p) => [emailKey(p.email), p.id]));
  addresses.set(people, by);
  return by;
}

/** Facts for the engine at one moment, from plain data. */
export function engineFacts(
  office: OfficeData,
  data: FactsData,
  at: number,
  kinds: FieldKinds,
  zone = "Europe/Dublin",
  procedures: Procedures = NO_PROCEDURES,
): EngineFacts {
  const { people, calendars } = indexOf(office);
  const holders = (duty: string, place: string | null): string[] => holdersOf(office.duties, duty, place);
  const awayNow = (p: string) => office.absences.find((a) => a.person === p && a.starts <= at && a.ends > at);
  const value = (id: string | null | undefined) =>
    id && data.people[id] ? personValue(data.people[id]) : null;
  const around = {
    now: Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone),
    managerOf: (id: string) => value(people.get(id)?.manager),
    holdersOf: (duty: string, place: string | null) => holders(duty, place).flatMap((p) => value(p) ?? []),
  };
  const hidden = new Set(data.hiddenReads);
  const closed = data.hiddenFromActor ? new Set(data.hiddenFromActor) : hidden;
  const fallback = calendars.get(DEFAULT_CALENDAR) ?? [...calendars.values()][0];
  const made = factsFrom(data, around, kinds);
  return {
    ...made,
    at,
    hidesOfRecords: (read) => hidden.has(read),
    hidesFromActor: (read) => closed.has(read),
    membersOf: (g) => [...(office.groups.find((x) => x.key === g)?.members ?? [])],
    everybody: () => colleaguesIn(office),
    colleague(id) {
      const who = colleaguesIn(office).find((c) => c.id === id);
      return who ? colleagueValues(who, (p) => made.person(p)) : null;
    },
    peopleKnown: () => knownIn(office, data.people, (id) => made.person(id)),
    dutyHolders: holders,
    managerId: (p) => people.get(p)?.manager ?? null,
    coverFor(p, duty) {
      const away = awayNow(p);
      return away?.covers?.find((c) => c.duty === duty)?.cover ?? away?.cover ?? null;
    },
    isAway: (p) => awayNow(p) !== undefined,
    keepsOpen: (p) => awayNow(p)?.stays === true,
    loads: (asked) => {
      if (!data.loads) return null;
      const key = loadsKey(asked);
      if (!Object.hasOwn(data.loads, key)) throw new NeedsLoads(asked);
      return data.loads[key]!;
    },
    personAt: (email) => addressesOf(data.people).get(emailKey(email)) ?? null,
    emailOf: (p) => data.people[p]?.email ?? "",
    isActive: (p) => people.get(p)?.active ?? false,
    calendarOf: (p) => calendars.get(people.get(p)?.calendar ?? "") ?? null,
    calendar: (key) => {
      const found = calendars.get(key ?? DEFAULT_CALENDAR) ?? fallback;
      if (!found) throw new Error("an office needs at least one working calendar");
      return found;
    },
    procedures,
  };
}

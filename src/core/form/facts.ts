import { addWorkingDays, workingDaysBetween, type WorkingCalendar } from "../calendar";
import {
  type ContextValue,
  Entity,
  Num,
  OF_REGISTER,
  PartlyRead,
  type Surroundings,
  Unreachable,
  type Value,
} from "../expression";
import type { FieldKinds, TypedField, ValueFacts } from "./fieldBehaviour";
import { PEOPLE } from "./people";
import type { RecordsAnswer, RecordsAsked } from "./recordsAsked";
import { REQUESTS } from "./requestLinks";
import { recordTitle, type RegisterShape, type StoredRecord } from "./registerShape";

/** A person as formulas see one. */
export interface PersonFacts {
  id: string;
  name: string;
  email: string;
  jobTitle: string;
  department: string;
  site: string;
  /** Another program's account: named where it did something, never offered to be picked. */
  service?: true;
}

/** What is known of a file without its contents. `type` is a media type, `size` in bytes, `at` epoch milliseconds. */
export interface FileFacts {
  id: string;
  name: string;
  size: number;
  type: string;
  at: number;
}

/** Everything a form may ask about beyond its own data, as plain data that can be sent to a browser. */
export interface FactsData {
  people: Readonly<Record<string, PersonFacts>>;
  registers: Readonly<Record<string, RegisterShape>>;
  /**
   * By register key, then record id: only those the form points at. A column that is left out was not read; one that is
   * empty is null.
   */
  records: Readonly<Record<string, Readonly<Record<string, StoredRecord>>>>;
  /** What of records somebody may not see, as `Clause.reads` tells it: reasons and names of rounds say none of it. */
  hiddenReads?: readonly string[];
  /** The same of what is hidden from whoever acts; absent where that was not asked: then what is hidden from anybody is. */
  hiddenFromActor?: readonly string[];
  /** By id: those the form holds and the person at hand may have. */
  files?: Readonly<Record<string, FileFacts>>;
  /** What checks have asked of records, by what was asked (`RecordsAsked.key`), as far as it is known. */
  asked?: Readonly<Record<string, RecordsAnswer>>;
  /**
   * How much people have and when it was their turn last, by what was asked (`loadsKey`); absent where nothing is chosen by
   * that.
   */
  loads?: Readonly<Record<string, Readonly<Record<string, { open: number; last: number | null }>>>>;
  /** What formulas may ask of the office; the same on the server and in browsers. */
  office?: OfficeFacts;
}
export interface OfficeFacts {
  /** Manager's id by person's id. */
  managers: Readonly<Record<string, string>>;
  duties: readonly { duty: string; person: string; place: string | null }[];
  /** The process's working calendar. */
  calendar: WorkingCalendar;
}

/** Who holds a duty; those who hold it for that very place come before those who hold it everywhere. */
export function holdersOf(duties: OfficeFacts["duties"], duty: string, place: string | null): string[] {
  const of = duties.filter((h) => h.duty === duty);
  const exact = place === null ? of : of.filter((h) => h.place === place);
  return [...new Set((exact.length > 0 ? exact : of.filter((h) => h.place === null)).map((h) => h.person))];
}

/** The part of the surroundings that comes from the office. */
function officeAround(data: FactsData, person: (id: string) => ContextValue): Partial<Surroundings> {
  const o = data.office;
  if (!o) return {};
  return {
    managerOf: (id) => (o.managers[id] ? person(o.managers[id]) : null),
    holdersOf: (duty, place) => holdersOf(o.duties, duty, place).map(person),
    working: {
      add: (d, n) => addWorkingDays(o.calendar, d, n),
      between: (a, b) => workingDaysBetween(o.calendar, a, b),
    },
  };
}

export interface Facts extends Surroundings, ValueFacts {
  /** Null where it is not known yet. */
  recordsThere(asked: RecordsAsked): RecordsAnswer | null;
  /** What may be asked of somebody who works here, by name (`PEOPLE_COLUMNS`); only the server knows all of it. */
  colleague?(id: string): ReadonlyMap<string, Value> | null;
}

const MAX_LINK_DEPTH = 2;

export function personValue(p: PersonFacts): ContextValue {
  return new Entity("person", p.id, [
    ["name", p.name],
    ["email", p.email],
    ["job title", p.jobTitle],
    ["department", p.department],
    ["site", p.site],
  ]);
}

/** Makes facts out of plain data. An unknown person or record still has its id, so that equality works. */
export function factsFrom(data: FactsData, around: Surroundings, kinds: FieldKinds): Facts {
  const people = new Map<string, ContextValue>();
  const records = new Map<string, ContextValue>();
  const person = (id: string): ContextValue => {
    let v = people.get(id);
    if (!v)
      people.set(
        id,
        (v = data.people[id] ? personValue(data.people[id]) : new Entity("person", id, [["name", id]])),
      );
    return v;
  };
  const file = (id: string): ContextValue | null => {
    const f = data.files?.[id];
    return f
      ? new Entity("file", f.id, [
          ["name", f.name],
          ["size", Num.of(f.size)],
          ["type", f.type],
          [
            "added",
            around.now
              .toInstant()
              .add({ milliseconds: f.at - around.now.epochMilliseconds })
              .toZonedDateTimeISO(around.now.timeZoneId),
          ],
        ])
      : null;
  };
  const request = (number: string): ContextValue | null => {
    const r = data.records[REQUESTS]?.[number];
    return r ? requestValue(r, around) : null;
  };
  const record = (register: string, id: string, depth = 0): ContextValue => {
    if (register === PEOPLE) return person(id);
    const cacheKey = `${register}/${id}/${depth}`;
    const cached = records.get(cacheKey);
    if (cached) return cached;
    const shape = data.registers[register];
    const stored = data.records[register]?.[id];
    const title: [string, Value][] =
      shape && stored
        ? [
            ["name", recordTitle(shape, stored)],
            [OF_REGISTER, register],
          ]
        : [];
    const out = shape && stored ? entity(shape, stored, title, depth) : new Unreachable(register, id);
    records.set(cacheKey, out);
    if (shape && stored && depth <= MAX_LINK_DEPTH) {
      for (const c of shape.columns) {
        if (stored[c.id] === undefined) continue;
        const value = fieldValue(c, stored[c.id], kinds, {
          person,
          file,
          request,
          isPerson: () => true,
          isRecord: () => true,
          record: (r, linked) => record(r, linked, depth + 1),
        });
        out.set(c.name, value);
      }
    }
    return out;
  };
  return {
    ...officeAround(data, person),
    ...around,
    person,
    file,
    request,
    record: (r, id) => record(r, id),
    // Another program's account is nobody who can be asked or named.
    isPerson: (id) => Object.hasOwn(data.people, id) && !data.people[id]!.service,
    recordsThere: ({ key }) => (data.asked && Object.hasOwn(data.asked, key) ? data.asked[key]! : null),
    isRecord: (r, id) => data.records[r] !== undefined && Object.hasOwn(data.records[r], id),
  };
}

/** A request as formulas see one that a link leads to. @param r with its moments in epoch milliseconds, as text */
function requestValue(r: StoredRecord, { now }: Surroundings): ContextValue {
  const moment = (ms: unknown): Value =>
    typeof ms === "string"
      ? now
          .toInstant()
          .add({ milliseconds: Number(ms) - now.epochMilliseconds })
          .toZonedDateTimeISO(now.timeZoneId)
      : null;
  return new Entity("request", r.id, [
    ["number", r.id],
    ["name", r.id],
    ["process", r["process"] ?? null],
    ["status", r["status"] ?? null],
    ["result", r["result"] ?? null],
    ["started", moment(r["started"])],
    ["ended", moment(r["ended"])],
  ]);
}

/** @param depth how many links were followed to it; beyond the deepest only what it is called is known */
function entity(shape: RegisterShape, stored: StoredRecord, title: [string, Value][], depth: number): Entity {
  const known = (id: string) => depth <= MAX_LINK_DEPTH && stored[id] !== undefined;
  const unread = shape.columns.filter((c) => !known(c.id)).map((c) => c.name);
  if (unread.length === 0) return new Entity(shape.key, stored.id, title);
  return new PartlyRead(shape.key, stored.id, title, new Set(unread));
}

/** A stored single value as a formula sees it; what is empty or cannot be read counts as empty. */
export function fieldValue(
  f: TypedField,
  raw: string | boolean | null | undefined,
  kinds: FieldKinds,
  facts: ValueFacts,
): Value {
  if (raw === null || raw === undefined || raw === "") return kinds[f.kind].many ? [] : null;
  return kinds[f.kind].value(f, raw, facts);
}

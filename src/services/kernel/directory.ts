import type { WorkingCalendar } from "@/core/calendar";
import type { OfficeData } from "@/core/engine";
import {
  partyName,
  personParty,
  NOBODY,
  readsHiddenFromAny,
  registerOpened,
  isOutside,
  type Party,
  type PersonFacts,
  type RegisterRights,
  type RegisterShape,
  type Someone,
} from "@/core/form";
import { officeFactsOf } from "@/core/problems";
import { type OfficeFacts } from "@/core/kinds";
import { workingCalendar } from "@/contracts";
import type { Outlet, ProcessDefinition } from "@/core/route";
import {
  chat,
  directoryVersion,
  mailboxes,
  notices,
  outlets,
  people,
  processes,
  recordStarts,
  registers,
  ROLE_HOLDERS,
  type Db,
  type PersonRow,
} from "@/db";
import { KINDS } from "@/kinds";
import { withPublicHolidays } from "@/outside/holidays";
import { nowMs } from "./clock";
import { definitionNow } from "./definitionNow";

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
  /** Who may see what of them, by key: every use case asks by `registersSeen`. */
  rights: Readonly<Record<string, RegisterRights>>;
  /** What of records somebody may not see. */
  hiddenReads: readonly string[];
  /** Those who have news by other ways than the screen. */
  beyond: ReadonlySet<string>;
  /** By name. */
  offered: readonly Offered[];
  /** The same as plain data, for the engine here and in browsers. */
  office: OfficeData;
}

/** A process that is open, as far as is told before anybody asks: its live release. */
export interface Offered {
  process: string;
  name: string;
  purpose: string;
  version: string;
  starts: ProcessDefinition["starts"];
  listed: NonNullable<ProcessDefinition["listed"]> | null;
  /** Key of its working calendar; null for the office's own. */
  calendar: string | null;
  /** Address of its mailbox; null for none. */
  mailbox: string | null;
  /** By id the starts that take nothing up just now; `keeps`: what comes meanwhile is caught up afterwards. */
  paused: Readonly<Record<string, { keeps: boolean }>>;
}

/** What of it is read by itself, and again only when it changed. */
interface Parts {
  people: Pick<Directory, "people" | "services" | "facts" | "managers"> & { office: OfficeData["people"] };
  absences: people.AbsenceRow[];
  groups: { key: string; name: string; members: string[] }[];
  calendars: WorkingCalendar[];
  mailboxes: {
    boxes: { address: string; name: string }[];
    chat: string | null;
    outlets: Outlet[];
    beyond: ReadonlySet<string>;
  };
  registers: { shapes: Directory["registers"]; rights: Record<string, RegisterRights> };
  duties: Directory["duties"];
  offered: Offered[];
}
type Part = keyof Parts;
/** More role holders than any office has; reading more would take the page with it. */
const MOST_DUTIES = 200_000;

/** Those that go by the shapes of registers as well, which are read before them. */
const BY_SHAPES: ReadonlySet<Part> = new Set(["duties", "offered"]);

const READ: { [P in Part]: (db: Db, shapes: Directory["registers"]) => Promise<Parts[P]> } = {
  people: readPeople,
  absences: people.allAbsences,
  groups: people.allGroups,
  async calendars(db) {
    const now = await nowMs(db);
    const all = (await people.allCalendars(db)).map((c) => workingCalendar.parse(c));
    return Promise.all(all.map((c) => withPublicHolidays(c, now)));
  },
  mailboxes: async (db) => ({
    boxes: await mailboxes.mailboxNames(db),
    chat: await chat.chatRoomName(db),
    outlets: await outlets.outletKinds(db),
    beyond: new Set(await notices.beyondTheScreen(db)),
  }),
  registers: async (db) => ({
    shapes: Object.fromEntries((await registers.allRegisters(db)).map((s) => [s.key, s])),
    rights: await registers.allRights(db),
  }),
  async offered(db, shapes) {
    const pauses = await recordStarts.allStartPauses(db);
    return (await processes.liveReleases(db)).map((r) => {
      const definition = definitionNow(r, shapes);
      return {
        process: r.process_key,
        name: definition.name,
        purpose: definition.purpose,
        version: r.version,
        starts: definition.starts,
        listed: definition.listed ?? null,
        calendar: definition.calendar ?? null,
        mailbox: definition.mailbox ?? null,
        paused: Object.fromEntries(
          pauses.flatMap((p) => (p.process_key === r.process_key ? [[p.start_id, { keeps: p.keeps }]] : [])),
        ),
      };
    });
  },
  async duties(db, shapes) {
    const shape = shapes[ROLE_HOLDERS];
    const rows = shape
      ? await registers.everyRecord(db, shape, ["duty", "person", "site", "department"], MOST_DUTIES)
      : [];
    return rows.map((h) => ({
      duty: String(h["duty"]),
      person: String(h["person"]),
      place: (h["site"] ?? h["department"] ?? null) as string | null,
    }));
  },
};

/** Everybody as they were read last, to which only what changed since is added. */
interface Everybody {
  people: Map<string, PersonRow>;
  services: Map<string, people.ServiceRow>;
  floor: string;
  table: string;
}
let everybody: Everybody | null = null;

const byName = (a: { name: string }, b: { name: string }): number => {
  if (a.name === b.name) return 0;
  return a.name < b.name ? -1 : 1;
};
/** The rows there were with those that changed in their places; in order of names. */
function withChanged<R extends { id: string; name: string }>(
  old: ReadonlyMap<string, R>,
  changed: readonly R[],
): Map<string, R> {
  const all = new Map(old);
  for (const r of changed) all.set(r.id, r);
  // Mostly nobody is called otherwise, and sorting ten thousand is what would take time.
  const renamed = changed.some((r) => old.get(r.id)?.name !== r.name);
  return renamed ? new Map([...all.values()].sort(byName).map((r) => [r.id, r])) : all;
}

const joined = (before: Everybody | null, read: people.PeopleRead): Everybody => ({
  people: withChanged(before?.people ?? new Map<string, PersonRow>(), read.people),
  services: withChanged(before?.services ?? new Map<string, people.ServiceRow>(), read.services),
  floor: read.floor,
  table: read.table,
});

async function readPeople(db: Db): Promise<Parts["people"]> {
  const before = everybody;
  let read = await people.readPeople(db, before?.floor ?? null);
  let now = joined(before, read);
  // Somebody is gone, or changed from one kind into the other, or it is another table: what changed does not tell that.
  const all = now.people.size + now.services.size === read.count && now.table === (before ?? now).table;
  if (!all) {
    read = await people.readPeople(db, null);
    now = joined(null, read);
  }
  // What a transaction has seen of itself is nothing to go on from: it may be taken back.
  if (!read.own) everybody = now;
  const facts: Record<string, PersonFacts> = {};
  for (const p of now.people.values())
    facts[p.id] = {
      id: p.id,
      name: p.name,
      email: p.email,
      jobTitle: p.job_title,
      department: p.department,
      site: p.site,
    };
  for (const p of now.services.values())
    facts[p.id] = {
      id: p.id,
      name: p.name,
      email: "",
      jobTitle: p.purpose,
      department: "",
      site: "",
      service: true,
    };
  const managers: Record<string, string> = {};
  for (const p of now.people.values()) if (p.manager_id) managers[p.id] = p.manager_id;
  return {
    people: now.people,
    services: now.services,
    facts,
    managers,
    office: [...now.people.values()].map((p) => ({
      id: p.id,
      name: p.name,
      manager: p.manager_id,
      calendar: p.calendar_key,
      active: p.active,
      jobTitle: p.job_title,
    })),
  };
}

/** Parts by the version they are of; a version is never given to two states, not even by a transaction taken back. */
const kept = new Map<Part, { version: string; value: unknown }>();
let cached: Directory | null = null;
/** Under way, by version: many calls that come upon a change read it once. */
const loading = new Map<string, Promise<Directory>>();

/** People, groups, duties, calendars and register shapes; what changed of them is read again.
 * @param known the directory's version, where the caller has just read it */
export async function loadDirectory(db: Db, known?: string): Promise<Directory> {
  const version = known ?? (await directoryVersion(db));
  if (cached?.version === version) return cached;
  const under = loading.get(version);
  if (under) return under;
  const mine = readDirectory(db, version).finally(() => loading.delete(version));
  loading.set(version, mine);
  return mine;
}

async function readDirectory(db: Db, version: string): Promise<Directory> {
  const versions = JSON.parse(version) as Partial<Record<Part, string>>;
  let shapes: Directory["registers"] = {};
  const part = async <P extends Part>(name: P): Promise<Parts[P]> => {
    const of = BY_SHAPES.has(name) ? `${versions[name]} ${versions.registers}` : String(versions[name]);
    const old = kept.get(name);
    if (old?.version === of) return old.value as Parts[P];
    const value = await READ[name](db, shapes);
    kept.set(name, { version: of, value });
    return value;
  };
  // One after the other: the caller may hold one connection only.
  const persons = await part("people");
  const absences = await part("absences");
  const groups = await part("groups");
  const calendars = await part("calendars");
  const { boxes, chat: chatName, outlets: kinds, beyond } = await part("mailboxes");
  const { shapes: read, rights } = await part("registers");
  shapes = read;
  const duties = await part("duties");
  const offered = await part("offered");
  cached = {
    version,
    people: persons.people,
    services: persons.services,
    facts: persons.facts,
    managers: persons.managers,
    groups: new Map(groups.map((g) => [g.key, g])),
    absences,
    beyond,
    duties,
    offered,
    calendars: new Map(calendars.map((c) => [c.key, c])),
    registers: shapes,
    rights,
    hiddenReads: readsHiddenFromAny(shapes, rights),
    office: {
      people: persons.office,
      groups,
      duties: [...duties],
      calendars,
      mailboxes: boxes,
      ...(chatName === null ? {} : { chat: chatName }),
      outlets: kinds,
      opened: Object.values(shapes).flatMap((s) =>
        registerOpened(s, rights[s.key] ?? NOBODY, KINDS.fields) ? [s.key] : [],
      ),
      absences: absences.map((a) => ({
        person: a.person_id,
        starts: a.starts,
        ends: a.ends,
        cover: a.cover_id,
        ...(a.covers.length > 0 ? { covers: a.covers } : {}),
        ...(a.stays ? { stays: true as const } : {}),
      })),
    },
  };
  return cached;
}

export const personName = (d: Directory, id: string): string => {
  const known = (d.people.get(id) ?? d.services.get(id))?.name;
  // Of whoever has an account for one request alone nothing is known here: the request says who they are.
  return known ?? (isOutside(id) ? "Somebody outside" : id);
};

/** Somebody the office knows by an account, as whoever stands behind something. */
export const accountBehind = (d: Directory, id: string): Someone => ({
  kind: d.services.has(id) ? "service" : "person",
  id,
});

/** How whoever asked for a request is called. @param r whose own it is, and who asked where that is not the account */
export const askerName = (d: Directory, r: { requester_id: string | null; party: Party | null }): string =>
  partyName(r.party ?? personParty(r.requester_id ?? ""), (id) => personName(d, id));

export const officeFacts = (d: Directory): OfficeFacts => officeFactsOf(d.office);

/** Everybody else who works here, to hand something to. */
export const colleaguesOf = (
  d: Pick<Directory, "people">,
  person: string,
): { id: string; name: string; jobTitle: string }[] =>
  [...d.people.values()]
    .filter((p) => p.active && p.id !== person)
    .map((p) => ({ id: p.id, name: p.name, jobTitle: p.job_title }));

/** Whether the shapes and rights of registers are still those of this directory. */
export async function isOfNow(db: Db, d: Pick<Directory, "version">): Promise<boolean> {
  const version = await directoryVersion(db);
  const part = (v: string): unknown => (JSON.parse(v) as Partial<Record<Part, string>>).registers;
  return version === d.version || part(version) === part(d.version);
}

/** A register by the key that stands in an address, whatever that is: "constructor" is none. */
export const registerOf = (d: Directory, key: string): RegisterShape | undefined =>
  Object.hasOwn(d.registers, key) ? d.registers[key] : undefined;

import type { WorkingCalendar } from "../calendar";
import type { Facts } from "../form";
import type { PeopleKnown } from "./peopleKnown";
import type { Loads, LoadsAsked } from "./loads";
import type { CompiledRelease } from "./release";

/** Releases of procedures, which a request comes to while it is under way. */
export interface Procedures {
  /** The release with this version, or what is live now (null); null where there is none. */
  find(key: string, version: string | null): { id: string; release: CompiledRelease } | null;
  byId(id: string): CompiledRelease | null;
}
export const NO_PROCEDURES: Procedures = { find: () => null, byId: () => null };

/** Procedures that were looked up: which release is meant, by `soughtAs`, and the releases by id. */
export interface ProceduresRead {
  found: ReadonlyMap<string, string>;
  releases: ReadonlyMap<string, CompiledRelease>;
}
export const NONE_READ: ProceduresRead = { found: new Map(), releases: new Map() };
export const soughtAs = (key: string, version: string | null): string => `${key} ${version ?? ""}`;
export const proceduresFrom = ({ found, releases }: ProceduresRead): Procedures => ({
  find(key, version) {
    const id = found.get(soughtAs(key, version));
    const release = id === undefined ? undefined : releases.get(id);
    return id === undefined || !release ? null : { id, release };
  },
  byId: (id) => releases.get(id) ?? null,
});

/** Somebody who works here: names of groups and duties, and whose desk is above theirs. */
export interface Colleague {
  id: string;
  manager: string | null;
  groups: readonly string[];
  duties: readonly string[];
}

/** What the engine needs to know of the office at the time of a command; loaded by the caller. */
export interface EngineFacts extends Facts {
  /** Epoch milliseconds of the command. */
  at: number;
  /** Nothing is decided: only what checks ask of records is wanted. */
  onlyAsks?: true;
  /** What checks ask of records is not known, and holds nothing: a sample is followed whatever stands there. */
  waivesRecords?: true;
  /** Whether something that is read of records is hidden from somebody. */
  hidesOfRecords(read: string): boolean;
  /** Whether it is hidden from whoever acts, as far as that is known; else from anybody. */
  hidesFromActor(read: string): boolean;
  membersOf(group: string): string[];
  /** The people who are here, by name, with what each is in and holds. */
  everybody(): readonly Colleague[];
  /** The same with what is known of each; worked out once an office. */
  peopleKnown(): PeopleKnown;
  /** Person ids, most specific first. `place` is a site or department; null for any. */
  dutyHolders(duty: string, place: string | null): string[];
  managerId(person: string): string | null;
  /**
   * Who answers while a person is away now; null when present or when nobody covers.
   * @param duty by which they are asked, where that is known: somebody else may answer for them in that
   */
  coverFor(person: string, duty?: string): string | null;
  /** Whether they are away now, whoever answers meanwhile. */
  isAway(person: string): boolean;
  /** Whether what was open when somebody went away stays with them. */
  keepsOpen(person: string): boolean;
  /**
   * How much people have and when it was their turn last, by all other requests; null where nothing is chosen by that.
   * @throws NeedsLoads where it was not asked for yet
   */
  loads(asked: LoadsAsked): Loads | null;
  isActive(person: string): boolean;
  /** Whoever works here, or did, and has this address; null for nobody. */
  personAt(email: string): string | null;
  /** The address somebody is known by; empty for none. */
  emailOf(person: string): string;
  /** A person's own calendar, when they have one. */
  calendarOf(person: string): WorkingCalendar | null;
  calendar(key: string | undefined): WorkingCalendar;
  procedures: Procedures;
}

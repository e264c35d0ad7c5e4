import type { ContextValue, Value } from "../expression";
import { emailKey } from "./emailKey";

/** Somebody whom the office knows by an account, or somebody outside of it. */
export type Someone =
  /** Somebody who works here, by id. */
  | { kind: "person"; id: string }
  /** Another program, by the id of its account. */
  | { kind: "service"; id: string }
  /**
   * Nobody who works here: known by what was said of them, told apart by the address. `through` is the account that
   * asked for them, whose own the request is as well; null for none. Where they `follow`, it is an account that is
   * theirs alone, made for this one request and reached by its tracking link; "letters": they are written to as well. `unsure`: the address is
   * what they typed, and nothing has shown it to be theirs.
   */
  | {
      kind: "outside";
      name: string;
      email: string;
      through: string | null;
      follows?: "letters" | "page";
      unsure?: true;
    };

/** Whoever stands behind a request. */
export type Party =
  | Someone
  /**
   * A process asks by itself; `behind` is whoever asked for the first of the requests that led to it, or wrote the record
   * that did; `because`, what became of that, in words.
   */
  | { kind: "process"; key: string; name: string; behind: Someone | null; because?: string };

export const personParty = (id: string): Party => ({ kind: "person", id });
export const NO_PARTY: Party = personParty("");

/** Who was there before any process asked by itself. */
export const behind = (p: Party): Someone | null => (p.kind === "process" ? p.behind : p);

/** The account a request is somebody's own by: who may withdraw it, sees it, and has it in their list; null for none. */
export function accountOf(p: Party): string | null {
  switch (p.kind) {
    case "person":
    case "service":
      return p.id;
    case "outside":
      return p.through;
    case "process":
      return null;
  }
}

/** The account of somebody outside who follows their request by a tracking link; null for everybody else. */
export const followerOf = (p: Party): string | null => (p.kind === "outside" && p.follows ? p.through : null);

/** Whoever follows their request and is written to of what becomes of it; null for everybody else, and once forgotten. */
export const hearerOf = (p: Party): { name: string; email: string } | null =>
  p.kind === "outside" && p.follows === "letters" && p.email !== "" ? { name: p.name, email: p.email } : null;

/** What such accounts are called by, so that nobody who works here can have one. */
export const VISITOR = "visitor.";
/** Whether an account is that of somebody who does not work here, made for one request alone. */
export const isOutside = (account: string): boolean => account.startsWith(VISITOR);

export const isAccount = (p: Party): boolean => p.kind === "person" || p.kind === "service";

/** Who can be asked, told and gone up from to their manager: people who work here alone; null for everybody else. */
export const colleagueOf = (p: Party): string | null => (p.kind === "person" ? p.id : null);

/**
 * Whether deciding would be deciding one's own request: by the account that asked, also for somebody else, by the
 * address of whoever asked from outside, where that is known to be theirs, and for what a process asked by itself by whoever led to that. Anything less
 * would be a way round the rule.
 * @param person an id, and the address the office knows them by
 */
export function isOwnRequest(p: Party, person: { id: string; email: string }): boolean {
  const who = behind(p);
  switch (who?.kind) {
    case undefined:
      return false;
    case "person":
    case "service":
      return who.id === person.id;
    case "outside":
      if (who.through === person.id) return true;
      // Whoever could type any address could keep a strict decider from deciding by typing theirs; and could have
      // themselves asked by typing their own where an address is to be that of somebody outside.
      if (who.unsure && !isOutside(person.id)) return false;
      return who.email !== "" && person.email !== "" && emailKey(who.email) === emailKey(person.email);
  }
}

/** What formulas read as Requester. Who is not known to the office has no job, department or site. */
export function partyValue(p: Party, person: (id: string) => ContextValue): ContextValue {
  switch (p.kind) {
    case "person":
    case "service":
      return person(p.id);
    case "outside":
      return stranger(p.name, p.email || null);
    case "process":
      return stranger(p.name, null);
  }
}
/** No `Entity`: nothing may take its id for that of a person or a record. */
const stranger = (name: string, email: Value): ContextValue =>
  new Map<string, Value>([
    ["id", null],
    ["name", name],
    ["email", email],
    ["job title", null],
    ["department", null],
    ["site", null],
  ]);

/** How whoever asked is called. */
export function partyName(p: Party, account: (id: string) => string): string {
  switch (p.kind) {
    case "person":
    case "service":
      return account(p.id);
    case "outside":
    case "process":
      return p.name;
  }
}

const GONE = "…";
/** Without what tells who it is, where that is to be forgotten. An account stays: it is taken care of by its own. */
export function partyForgotten(p: Party): Party {
  switch (p.kind) {
    case "outside":
      return p.name === GONE && p.email === "" ? p : { ...p, name: GONE, email: "" };
    case "process": {
      const who = p.behind && (partyForgotten(p.behind) as Someone);
      const { because, ...rest } = p;
      return who === p.behind && because === undefined ? p : { ...rest, behind: who };
    }
    case "person":
    case "service":
      return p;
  }
}

/** The same as a page may have it: the address only where something on it reads that, and nobody who stands behind. */
export function partyShown(p: Party, email: boolean): Party {
  if (p.kind === "process") return { ...p, behind: null };
  return p.kind === "outside" && !email ? { ...p, email: "" } : p;
}

export const sameParty = (a: Party, b: Party): boolean =>
  a === b || (a.kind === b.kind && JSON.stringify(a) === JSON.stringify(b));

import { startKind } from "@/core/kinds";
import type { Start } from "@/core/route";
import { KINDS } from "@/kinds";
import type { Actor } from "./actor";

/** What somebody may want to do, with what is needed to tell whether they may. */
export type Deed =
  | { action: "ask"; starts: readonly Start[]; live: boolean }
  /** To leave a few words on a record they see. */
  | { action: "note record"; seen: boolean }
  /** To take a note away; `own`: they wrote it, `keeper`: they look after the register. */
  | { action: "remove note"; seen: boolean; own: boolean; keeper: boolean }
  /** To start by what a record's page offers; `seen`: they see the records it is about. */
  | { action: "press"; start: Start; seen: boolean }
  /** For somebody who has no account and is known by name and address; beside asking itself. */
  | { action: "ask for somebody outside" }
  /** To fill in and send a form that is open to people outside; `open`: it is, and is live. */
  | { action: "ask from outside"; open: boolean }
  /** To make the links void by which somebody outside follows a request. */
  | { action: "close links"; owner: boolean }
  /** A step of another request starts one; `begins`: the process lets that process. */
  | { action: "begin"; begins: boolean }
  | { action: "see request"; requester: string | null; tookPart: boolean; owner: boolean }
  /** To do something with a request at all; `answers`: it is to answer, or to withdraw one's own. */
  | { action: "command"; answers: boolean }
  /** To write a letter by hand; `holds`: something of it waits for them. */
  | { action: "write letter"; owner: boolean; holds: boolean }
  | { action: "answer letter"; receiver: boolean }
  /** Retry, skip, cancel, reassign. */
  | { action: "watch"; owner: boolean }
  | { action: "see progress"; owner: boolean }
  | { action: "design"; owner: boolean }
  /** `shown`: it stands in a field they may see. */
  | { action: "read file"; addedBy: string; loose: boolean; shown: boolean }
  | { action: "add file" }
  /** One's own desk, requests, notices and drafts. */
  | { action: "use own"; person: string }
  | { action: "create process" }
  /** The list of those one may see. */
  | { action: "read registers" }
  /** `seen`: what rights say of it lets them. */
  | { action: "read register"; seen: boolean }
  /** `may`: what rights say of its records lets them. */
  | { action: "write records"; may: boolean }
  /** Say who may see what of it; `keeper`: they look after it. */
  | { action: "keep register"; keeper: boolean }
  | { action: "make register" }
  | { action: "see office" }
  /** A key by which a program acts as somebody; `service` for an account of a program's own. */
  | { action: "make key"; person: string; service: boolean }
  /** See what keys there are of somebody's, and take them back. */
  | { action: "keep keys"; person: string }
  | { action: "manage services" }
  /** Who is here, what they are, which duties and rights they have; calendars and groups. */
  | { action: "keep people" }
  /** Say when somebody is away, and who answers meanwhile. */
  | { action: "set absence"; person: string }
  /** Blank somebody's personal values before their time. */
  | { action: "erase person" }
  /** What workers gave up on. */
  | { action: "keep jobs" }
  /** What everything comes to that is kept. */
  | { action: "see sizes" }
  | { action: "read log" }
  /** Propose other owners; `owner`, or the office. */
  | { action: "propose owners"; owner: boolean }
  /** Agree to owners that were proposed, as one who is an owner before and after; where none is, as one to be. */
  | { action: "agree to owners"; remains: boolean }
  /** Look at a proposal of owners and drop it: who owns the process, is to own it, or proposed it. */
  | { action: "answer proposal"; concerned: boolean }
  /** Name an owner where none is left. */
  | { action: "name owner"; left: boolean }
  | { action: "move clock"; demo: boolean }
  /** What workers do: timers, deliveries, sweeping. */
  | { action: "run jobs" };

/** Deny by default: what is not said here is not allowed. The only place that knows who may what. */
export function can(actor: Actor | null, deed: Deed): boolean {
  if (!actor) return false;
  // Cobble Step itself does its own jobs, and fills a database in which nobody can sign in yet.
  if (actor.kind === "system")
    return (
      deed.action === "run jobs" ||
      deed.action === "create process" ||
      deed.action === "design" ||
      (deed.action === "begin" && deed.begins)
    );
  if (actor.kind === "visitor") return visitorMay(actor.id, deed);
  switch (deed.action) {
    case "ask":
      return deed.live && deed.starts.some((s) => startKind(KINDS, s).mayStart(s, actor));
    // What is said to people is said by people.
    case "note record":
      return deed.seen && actor.kind === "person";
    case "remove note":
      return deed.seen && (deed.own || deed.keeper);
    case "press":
      return deed.seen && startKind(KINDS, deed.start).mayPress?.(deed.start, actor) === true;
    // What a person says of somebody else would stand there as asked by them.
    case "ask for somebody outside":
      return actor.kind === "service";
    case "see request":
      return deed.requester === actor.id || deed.tookPart || deed.owner;
    // What of it is whose to do the engine tells.
    case "command":
      return true;
    case "answer letter":
      return actor.kind === "person" && deed.receiver;
    case "write letter":
      return actor.kind === "person" && (deed.owner || deed.holds);
    case "watch":
    case "see progress":
      return deed.owner;
    case "design":
      return deed.owner || actor.officeRights;
    case "read file":
      return deed.loose ? deed.addedBy === actor.id : deed.shown;
    case "use own":
      return deed.person === actor.id;
    case "create process":
    case "make register":
    case "manage services":
    case "keep people":
    case "erase person":
    case "keep jobs":
    case "see sizes":
    case "read log":
      return actor.officeRights;
    case "propose owners":
      return actor.kind === "person" && (deed.owner || actor.officeRights);
    case "agree to owners":
      return actor.kind === "person" && deed.remains;
    case "answer proposal":
      return actor.kind === "person" && deed.concerned;
    case "name owner":
      return actor.officeRights && !deed.left;
    case "add file":
    case "read registers":
    case "see office":
      return true;
    case "read register":
      return deed.seen;
    case "write records":
      return deed.may;
    case "keep register":
      return actor.kind === "person" && (deed.keeper || actor.officeRights);
    case "make key":
      // Whoever could make a key for another person could act as that person, unseen.
      return actor.kind === "person" && (deed.person === actor.id || (deed.service && actor.officeRights));
    case "set absence":
    case "keep keys":
      return actor.kind === "person" && (deed.person === actor.id || actor.officeRights);
    case "move clock":
      return deed.demo;
    case "close links":
      return deed.owner;
    case "begin":
    case "ask from outside":
    case "run jobs":
      return false;
  }
  // Reached only by what no list of deeds knows.
  return false;
}

/**
 * What somebody outside may ever do: the form that is open to them, and what is theirs by the account made for them in one
 * request, which is their own or asks them something. What is not said here they may not, whatever is added above.
 */
function visitorMay(own: string, deed: Deed): boolean {
  if (deed.action === "ask from outside") return deed.open;
  if (deed.action === "see request") return deed.requester === own || deed.tookPart;
  if (deed.action === "command") return deed.answers;
  if (deed.action === "read file") return deed.loose ? deed.addedBy === own : deed.shown;
  if (deed.action === "answer letter") return deed.receiver;
  // Of what keepers opened to people outside.
  return deed.action === "read register" && deed.seen;
}

import type { Start } from "@/core/process";
import type { Actor } from "./actor";

/** What somebody may want to do, with what is needed to tell whether they may. */
export type Deed =
  | { action: "ask"; starts: readonly Start[]; live: boolean }
  | { action: "see request"; requester: string; tookPart: boolean; owner: boolean }
  /** Retry, skip, cancel, reassign. */
  | { action: "watch"; owner: boolean }
  | { action: "see progress"; owner: boolean }
  | { action: "design"; owner: boolean }
  | {
      action: "read file";
      addedBy: string;
      loose: boolean;
      /** It stands in a field they may see. */ shown: boolean;
    }
  | { action: "create process" }
  | { action: "read registers" }
  | { action: "see office" }
  | { action: "make key"; person: string }
  | { action: "manage services" }
  | { action: "move clock"; demo: boolean };

/** Deny by default: what is not said here is not allowed. The only place that knows who may what. */
export function can(actor: Actor | null, deed: Deed): boolean {
  if (!actor) return false;
  switch (deed.action) {
    case "ask":
      return deed.live && deed.starts.some((s) => inAudience(actor, s));
    case "see request":
      return deed.requester === actor.id || deed.tookPart || deed.owner;
    case "watch":
    case "see progress":
      return deed.owner;
    case "design":
      return deed.owner || actor.officeRights;
    case "read file":
      return deed.loose ? deed.addedBy === actor.id : deed.shown;
    case "create process":
      return actor.officeRights;
    case "read registers":
    case "see office":
      return true;
    case "make key":
      return actor.kind === "person" && (deed.person === actor.id || actor.officeRights);
    case "manage services":
      return actor.officeRights;
    case "move clock":
      return deed.demo;
    default:
      return false;
  }
}

function inAudience(actor: Actor, s: Start): boolean {
  switch (s.who.by) {
    case "everybody":
      return true;
    case "group":
      return actor.groups.includes(s.who.group);
    case "department":
      return actor.department === s.who.department;
  }
}

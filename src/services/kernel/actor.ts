import type { Party } from "@/core/form";
import type { Db } from "@/db";
import { loadDirectory } from "./directory";

/** How somebody acts: signed in, by a key, or as what no outsider can be. It stands on all they do. */
export type Via =
  /** `provedAt`: when they last showed who they are, by the machine's clock. */
  | { kind: "session"; id: string; provedAt: number }
  | { kind: "key"; id: string }
  /** By a link in a mail, or by a reply: the id of the mail. */
  | { kind: "link"; id: string }
  | { kind: "reply"; id: string }
  /** On a public form, or by a tracking link. */
  | { kind: "outside"; id: string }
  /** By what was pressed in a chat room: the id of the message. */
  | { kind: "chat"; id: string }
  | { kind: "inside" };

export const INSIDE: Via = { kind: "inside" };

/** As it is kept beside events and entries of the log; null for Cobble Step itself. */
export const viaText = (via: Via): string | null => (via.kind === "inside" ? null : `${via.kind} ${via.id}`);

/** What the database said of itself in the same breath as who asks: as good as new for one page, never for a change. */
export interface Moment {
  /** The directory's version. */
  directory: string;
  clockOffset: number;
}

/**
 * On whose behalf a use case is asked: a person, another program with an account of its own, somebody outside who came by
 * a public form or a tracking link (a visitor, with an account for that one request), or Cobble Step itself.
 */
export interface Actor {
  kind: "person" | "service" | "visitor" | "system";
  id: string;
  name: string;
  department: string;
  groups: readonly string[];
  officeRights: boolean;
  zone: string;
  via: Via;
  moment?: Moment;
}

/**
 * As whom somebody asks.
 * @throws where it is Cobble Step itself, which asks for nothing, or somebody outside, of whom an account says too little
 */
export function partyOf({ kind, id }: Pick<Actor, "kind" | "id">): Party {
  if (kind === "system" || kind === "visitor") throw new Error("nobody asks for this request");
  return { kind, id };
}

/** Workers, and the seeding of a database in which nobody can sign in yet. */
export const SYSTEM: Actor = {
  kind: "system",
  id: "",
  name: "Cobble Step",
  department: "",
  groups: [],
  officeRights: false,
  zone: "UTC",
  via: INSIDE,
};

/**
 * @param via how they act; left out where nobody acts, but who somebody is must be known
 * @param version the directory's version, where the caller has just read it
 */
export async function actorOf(
  db: Db,
  personId: string,
  via: Via = INSIDE,
  version?: string,
): Promise<Actor | null> {
  const d = await loadDirectory(db, version);
  const service = d.services.get(personId);
  if (service?.active)
    return {
      kind: "service",
      id: service.id,
      name: service.name,
      department: "",
      groups: [],
      officeRights: false,
      zone: "UTC",
      via,
    };
  const p = d.people.get(personId);
  if (!p?.active) return null;
  return {
    kind: "person",
    id: p.id,
    name: p.name,
    department: p.department,
    officeRights: p.office_rights,
    zone: p.zone,
    via,
    groups: [...d.groups.values()].filter((g) => g.members.includes(p.id)).map((g) => g.key),
  };
}

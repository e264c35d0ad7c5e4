import type { Db } from "@/db";
import { loadDirectory } from "./directory";

/** On whose behalf a use case is asked: a person, another program with an account of its own, or Cobble Step itself. */
export interface Actor {
  kind: "person" | "service" | "system";
  id: string;
  name: string;
  department: string;
  groups: readonly string[];
  officeRights: boolean;
  zone: string;
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
};

/** @param version the directory's version, where the caller has just read it */
export async function actorOf(db: Db, personId: string, version?: string): Promise<Actor | null> {
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
    groups: [...d.groups.values()].filter((g) => g.members.includes(p.id)).map((g) => g.key),
  };
}

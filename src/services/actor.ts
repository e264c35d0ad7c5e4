import type { Db } from "@/db";
import { loadDirectory } from "./directory";

/** The person on whose behalf a service is asked. */
export interface Actor {
  id: string;
  name: string;
  department: string;
  groups: readonly string[];
  officeRights: boolean;
  zone: string;
}

export async function actorOf(db: Db, personId: string): Promise<Actor | null> {
  const d = await loadDirectory(db);
  const p = d.people.get(personId);
  if (!p?.active) return null;
  return {
    id: p.id, name: p.name, department: p.department, officeRights: p.office_rights, zone: p.zone,
    groups: [...d.groups.values()].filter((g) => g.members.includes(p.id)).map((g) => g.key),
  };
}

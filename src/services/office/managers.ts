import { peopleMissing, type PeopleMissing } from "@/core/problems";
import { getPool, processes } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase } from "../kernel/defineUseCase";
import { definitionNow } from "../kernel/definitionNow";
import { loadDirectory, officeFacts } from "../kernel/directory";
import { managerTree, type ManagerTree } from "./managerTree";

export interface Managers extends ManagerTree {
  /** Open processes that would ask nobody somewhere, as the office is now; by name. */
  stops: { key: string; name: string; at: PeopleMissing[] }[];
}

/** Who manages whom, who has nobody above them, and which processes would find nobody. */
export const managers = defineUseCase(["keep people"], async (c): Promise<Managers> => {
  c.must(
    { action: "keep people" },
    { code: "not-allowed", data: { action: "see who manages whom; the office may" } },
  );
  const db = getPool();
  const d = await loadDirectory(db);
  const people = d.office.people.filter((p) => p.active).map((p) => ({ ...p, jobTitle: p.jobTitle ?? "" }));
  const office = officeFacts(d);
  const stops: Managers["stops"] = [];
  for (const row of await processes.liveReleases(db)) {
    const definition = definitionNow(row, d.registers);
    const at = peopleMissing(definition, KINDS, office);
    if (at.length > 0) stops.push({ key: definition.key, name: definition.name, at });
    // Of many processes: others are served in between.
    await new Promise((done) => setImmediate(done));
  }
  return { ...managerTree(people), stops: stops.sort((a, b) => (a.name < b.name ? -1 : 1)) };
});

import { keptLadders, type Db } from "@/db";
import type { ProcessDefinition } from "@/core/route";

/** The ladders of a process as others have taken them: kept for all, by the first of its owners. */
export async function keepForAll(db: Db, d: ProcessDefinition, at: number): Promise<void> {
  for (const { from, ...ladder } of d.ladders ?? [])
    if (from)
      await keptLadders.put(db, {
        id: from.ladder,
        name: ladder.name,
        thing: ladder,
        process_key: d.key,
        by_person: d.owners[0] ?? null,
        at,
      });
}

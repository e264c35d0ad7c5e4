import type { Registers } from "@/core/form";
import type { Pointing } from "@/core/records";
import { registers, type Db } from "@/db";
import { KINDS } from "@/kinds";

/** What points at records, by their ids: for each link of each register that does. */
export async function pointedAt(
  db: Db,
  shapes: Registers,
  register: string,
  ids: readonly string[],
): Promise<Map<string, Pointing[]>> {
  const out = new Map<string, Pointing[]>();
  for (const shape of Object.values(shapes))
    for (const c of shape.columns) {
      if (KINDS.fields[c.kind].idOf !== "record" || c.register !== register) continue;
      for (const [id, records] of await registers.recordsPointing(db, shape, c.id, ids))
        out.set(id, [...(out.get(id) ?? []), { register: shape.key, column: c.id, records }]);
    }
  return out;
}

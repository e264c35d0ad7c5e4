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
      const { links } = KINDS.fields[c.kind];
      if (!links?.registers(c).includes(register)) continue;
      const pointers = new Map(ids.map((id) => [links.pointer({ register, id }), id]));
      for (const [pointer, records] of await registers.recordsPointing(db, shape, c, [...pointers.keys()])) {
        const id = pointers.get(pointer)!;
        out.set(id, [...(out.get(id) ?? []), { register: shape.key, column: c.id, records }]);
      }
    }
  return out;
}

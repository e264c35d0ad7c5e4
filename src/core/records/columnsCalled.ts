import type { Renaming } from "../expression";
import type { Registers } from "../form";

/** Columns that are called otherwise than before, told by their ids, and names of those that were not there. */
export function columnsCalled(before: Registers, after: Registers): { renamed: Renaming[]; added: string[] } {
  const renamed: Renaming[] = [];
  const added: string[] = [];
  for (const shape of Object.values(before)) {
    const now = after[shape.key];
    if (!now || now === shape) continue;
    const old = new Map(shape.columns.map((c) => [c.id, c.name]));
    for (const { id, name } of now.columns) {
      const from = old.get(id);
      if (from === undefined) added.push(name);
      else if (from !== name)
        renamed.push({ id: `column ${shape.key} ${id}`, entryOf: `record ${shape.key}`, from, to: name });
    }
  }
  return { renamed, added };
}

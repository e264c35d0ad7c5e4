import type { RecordRights, RegisterShape } from "@/core/form";
import type { sheetImports } from "@/db";
import { actorOf, type Actor } from "../kernel/actor";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { registerFor, registersSeen } from "../kernel/registersSeen";
import { rightsToRecords } from "../registers/recordForm";
import type { Db } from "@/db";

/** A register somebody brings a sheet into, with what they may do there. */
export interface Bringing {
  d: Directory;
  actor: Actor;
  /** With all its columns, and as they see it. */
  whole: RegisterShape;
  shape: RegisterShape;
  seen: Readonly<Record<string, RegisterShape>>;
  may: RecordRights;
}

/** As things are now; null where the register, the person or their right is gone. */
export async function bringingOf(
  db: Db,
  { register_key: key, person_id }: Pick<sheetImports.SheetImportRow, "register_key" | "person_id">,
): Promise<Bringing | null> {
  const d = await loadDirectory(db);
  const actor = await actorOf(db, person_id);
  const whole = key === null ? undefined : registerOf(d, key);
  const shape = actor && key !== null ? registerFor(d, actor, key) : undefined;
  if (!actor || !whole || !shape) return null;
  const may = rightsToRecords(d, { actor }, whole.key);
  return may.add || may.change ? { d, actor, whole, shape, seen: registersSeen(d, actor), may } : null;
}

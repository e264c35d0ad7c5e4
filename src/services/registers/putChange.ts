import type { ShapeChange } from "@/core/records";
import type { RegisterShape } from "@/core/form";
import { registers, type Client } from "@/db";
import type { Actor } from "../kernel/actor";
import type { Directory } from "../kernel/directory";
import { noteEntry } from "../log/noteEntry";
import { follow, type Followers } from "./followChange";

/** A change of a register that nothing keeps from being made. */
export interface Change {
  now: RegisterShape;
  after: RegisterShape;
  change: ShapeChange;
  followers: Followers;
  /** Ids of columns whose values stand ready beside, and take their places. */
  made: readonly string[];
}

/**
 * Makes a change of a register in its table, its shape and whatever follows. The values of columns that are not ready
 * beside are the caller's to write, and so is what of those is needed.
 */
export async function putChange(
  db: Client,
  actor: Actor,
  d: Directory,
  { now, after, change, followers, made }: Change,
): Promise<void> {
  const { key } = after;
  const isMade = (c: { id: string }) => made.includes(c.id);
  for (const x of change.removed) await registers.setColumnAside(db, key, x);
  for (const { column, from } of change.retyped) {
    await registers.setColumnAside(db, key, from);
    await registers.renameAside(db, key, from);
    if (isMade(column)) await registers.takePlace(db, key, column.id);
    else await registers.addColumn(db, key, { ...column, needed: false });
    await registers.indexColumn(db, after, column);
  }
  const retyped = change.retyped.map((x) => x.column);
  // What was worked out before is nothing anybody typed: it is not set aside.
  for (const id of made) {
    const there = now.columns.some((x) => x.id === id) && !retyped.some((x) => x.id === id);
    if (there) await registers.dropColumn(db, key, id);
    if (!retyped.some((x) => x.id === id)) await registers.takePlace(db, key, id);
  }
  for (const x of change.added.filter((y) => !isMade(y)))
    await registers.addColumn(db, key, x.worked ? { ...x, needed: false } : x);
  for (const x of change.added) await registers.indexColumn(db, after, x);
  for (const x of change.needed) if (!x.worked && !retyped.includes(x)) await registers.setNeeded(db, key, x);
  // Whose column is another one now, its index is as well.
  const anew = after.columns.filter((x) => retyped.includes(x) || (isMade(x) && !change.added.includes(x)));
  const again = anew.filter((x) => x.unique || after.key_column === x.id);
  const others = change.unique.filter((x) => !again.includes(x));
  for (const x of [...others, ...change.added.filter((y) => y.unique)]) await registers.setUnique(db, key, x);
  for (const x of again) await registers.setUnique(db, key, { ...x, unique: true });
  await registers.putShape(db, after);
  await follow(actor, db, d, now, after, followers);
  const columns = change.added.length + change.removed.length + change.retyped.length;
  if (made.length > 0) await registers.dropIndexes(db, [wordsIndex(after), wordsIndex(now)].flat());
  else if (columns > 0) await registers.indexAnew(db, after);
  await noteEntry(actor, { what: "register changed", data: { register: key } }, db);
}

/** The index over all words, by its name: of a large register it is made anew beside everybody's work. */
const wordsIndex = (shape: RegisterShape): string[] =>
  registers.indexesOf(shape).flatMap((i) => (i.on.startsWith("using gin") ? [i.name] : []));

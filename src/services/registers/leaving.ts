import { registerProblems, shapeChange, type RegisterProblem } from "@/core/records";
import { staying, type Column, type RegisterShape, type Registers } from "@/core/form";
import { inTransaction, processes, registers, type Client, type ReleaseInUse } from "@/db";
import { KINDS } from "@/kinds";
import { SYSTEM } from "../kernel/actor";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, registerOf } from "../kernel/directory";
import { NO_FOLLOWERS } from "./followChange";
import { putChange } from "./putChange";

/** Releases that read a column, in words. */
export const readersOf = (all: readonly ReleaseInUse[], c: Column): string[] =>
  all
    .filter((r) => r.columns === null || r.columns.includes(c.id))
    .map((r) => `${r.name} ${r.version}${r.open > 0 ? ` (${r.open} under way)` : ""}`);

/**
 * A register as it is to be, with the columns that are taken out and that releases in use still read: they stay in it, and
 * nobody sees them any more. One that comes to be called as one of those has the name; releases follow the other.
 */
export async function withLeaving(
  db: Client,
  before: RegisterShape,
  after: RegisterShape,
): Promise<RegisterShape> {
  const { removed } = shapeChange(before, after);
  const readers = removed.length > 0 ? await processes.releasesInUse(db, before.key) : [];
  const stay = removed.filter((c) => readersOf(readers, c).length > 0);
  const names = new Set(staying(after).columns.map((c) => c.name.toLowerCase()));
  const leaving = [...after.columns.filter((c) => c.leaving), ...stay].map((c): Column => {
    const { needed: _n, unique: _u, starting: _s, ...rest } = c;
    let name = c.name;
    while (names.has(name.toLowerCase())) name = `${name} before`;
    names.add(name.toLowerCase());
    return { ...rest, name, leaving: true };
  });
  return leaving.length > 0 ? { ...after, columns: [...staying(after).columns, ...leaving] } : after;
}

/** What is wrong with a register, also once the columns that are leaving have gone. */
export function problemsOfShape(shape: RegisterShape, all: Registers): RegisterProblem[] {
  const around = { registers: all, kinds: KINDS };
  const now = registerProblems(shape, around);
  if (staying(shape) === shape) return now;
  const said = new Set(now.map((p) => p.message));
  return [...now, ...registerProblems(staying(shape), around).filter((p) => !said.has(p.message))];
}

/** Sets columns aside that are leaving, and that nothing in use reads any more; how many went. */
export const sweepColumns = defineView(["run jobs"], async (c): Promise<number> => {
  if (!c.may({ action: "run jobs" })) return 0;
  return inTransaction(async (db) => {
    await registers.holdShapes(db, "to change");
    const d = await loadDirectory(db);
    let gone = 0;
    for (const key of Object.keys(d.registers)) {
      const now = registerOf(d, key)!;
      if (staying(now) === now || (await registers.openReshape(db, key))?.state === "working") continue;
      const readers = await processes.releasesInUse(db, key);
      const columns = now.columns.filter((x) => !x.leaving || readersOf(readers, x).length > 0);
      if (columns.length === now.columns.length) continue;
      const after = { ...now, columns };
      const change = shapeChange(now, after);
      await putChange(db, SYSTEM, d, { now, after, change, followers: NO_FOLLOWERS, made: [] });
      gone += change.removed.length;
    }
    return gone;
  });
});

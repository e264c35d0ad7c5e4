import type { RegisterShape } from "@/core/form";
import { at, getPool, inTransaction, registers, type Client } from "@/db";
import type { Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { rightsOf } from "../kernel/registersSeen";
import { noRegister } from "./recordForm";
import { besideOf, type Anew } from "./reshapePlan";

/** How far the records of a register have been gone through for a change, or why it was not made. */
export interface Reshape {
  id: string;
  state: "working" | "asks" | "refused";
  done: number;
  total: number;
  /** What nothing can be made of, where that is asked. */
  loses: registers.ReshapeLoss[];
  why: string | null;
}

/** Begins to go through all records: a worker does that, into columns beside those that are there. */
export async function beginReshape(
  db: Client,
  actor: Actor,
  now: RegisterShape,
  after: RegisterShape,
  anew: Anew,
  lets: readonly string[],
): Promise<void> {
  const { key } = now;
  const open = await registers.openReshape(db, key);
  if (open) await registers.saveReshape(db, open.id, { ...open, state: "stopped" });
  // The table is held from here on until all that was being written is, so that what comes after is told by its number.
  for (const c of besideOf(anew)) {
    await registers.dropBeside(db, key, c.id);
    await registers.addBeside(db, key, c);
  }
  const id = await registers.insertReshape(db, {
    register_key: key,
    before: now,
    after,
    lets: [...lets],
    person_id: actor.id,
    total: await registers.sizeOf(db, key),
    at: at(await nowMs(db))!,
  });
  await registers.queueReshape(db, id);
}

/** What is being made of a register's records, or why it was not; null where nothing is. */
export const reshapeOf = defineView(["keep register"], async (c, key: string): Promise<Reshape | null> => {
  const db = getPool();
  const keeper = rightsOf(await loadDirectory(db), key).keepers.includes(c.actor.id);
  if (!c.may({ action: "keep register", keeper })) return null;
  const r = await registers.openReshape(db, key);
  if (!r) return null;
  const { id, done, total, loses, why } = r;
  return { id, state: r.state as Reshape["state"], done, total, loses, why };
});

/** Leaves out what nothing can be made of, and goes on. */
export const agreeReshape = defineUseCase(["keep register"], (c, key: string): Promise<null> =>
  withOpen(c, key, async (db, r) => {
    if (r.state !== "asks") return;
    const lets = [...new Set([...r.lets, ...r.loses.map((l) => l.column)])];
    await registers.saveReshape(db, r.id, { ...r, state: "working", lets, loses: [] });
    await registers.queueReshape(db, r.id);
  }),
);

/** Gives a change up, or puts away why one was not made; the register stays as it is. */
export const stopReshape = defineUseCase(["keep register"], (c, key: string): Promise<null> =>
  withOpen(c, key, async (db, r) => {
    await registers.saveReshape(db, r.id, { ...r, state: "stopped" });
    await dropMade(db, r);
  }),
);

const withOpen = (
  c: Call,
  key: string,
  run: (db: Client, r: registers.ReshapeRow) => Promise<void>,
): Promise<null> =>
  inTransaction(async (db) => {
    await registers.holdShapes(db, "to change");
    const keeper = rightsOf(await loadDirectory(db), key).keepers.includes(c.actor.id);
    c.must({ action: "keep register", keeper }, noRegister(key));
    const open = await registers.openReshape(db, key);
    const r = open && (await registers.holdReshape(db, open.id));
    if (r && r.state !== "done") await run(db, r);
    return null;
  });

/** Takes away what was made beside. */
export async function dropMade(
  db: Client,
  { register_key: key, after }: Pick<registers.ReshapeRow, "register_key" | "after">,
): Promise<void> {
  for (const c of after.columns) await registers.dropBeside(db, key, c.id);
}

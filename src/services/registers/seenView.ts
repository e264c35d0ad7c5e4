import type { RegisterShape } from "@/core/form";
import type { Db, RecordSearch } from "@/db";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { noRegister } from "./recordForm";
import { whereOf } from "./whereOf";

/** A register as whoever asks sees it, and what records of it they ask for. */
export interface SeenView {
  d: Directory;
  seen: Readonly<Record<string, RegisterShape>>;
  shape: RegisterShape;
  where: Pick<RecordSearch, "where">;
}

/** Asks the policy, and makes a condition ready. @param condition a formula every record shown must meet, or nothing */
export async function seenView(c: Call, db: Db, key: string, condition: string): Promise<SeenView> {
  const d = await loadDirectory(db);
  const seen = registersSeen(d, c.actor);
  const shape = Object.hasOwn(seen, key) ? seen[key] : undefined;
  c.must({ action: "read register", seen: shape !== undefined }, noRegister(key));
  if (!shape) throw new Failed(noRegister(key));
  const where =
    condition.trim() === "" ? {} : { where: await whereOf(db, seen, shape, condition, c.actor.zone) };
  return { d, seen, shape, where };
}

import { processes, type Db } from "@/db";
import type { Call } from "../kernel/defineUseCase";

/** What one may not design is answered like what is not there. */
export async function mustDesign(c: Call, db: Db, key: string): Promise<void> {
  const owner = (await processes.ownersOf(db, key)).includes(c.actor.id);
  c.must({ action: "design", owner }, { code: "not-found", data: { what: "process", id: key } });
}

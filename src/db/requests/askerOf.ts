import type { Party } from "@/core/form";
import type { Db } from "../pool";

/** Who asked for a request, where that is more than an account; null else. */
export const askerOf = async (db: Db, request: string): Promise<Party | null> =>
  (await db.query("select party from request where id = $1", [request])).rows[0]?.party ?? null;

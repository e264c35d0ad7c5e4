import { callerNow, getPool, officeLog, type Db } from "@/db";
import { viaText, type Actor } from "../kernel/actor";
import type { LogEntry } from "./logEntry";

/**
 * Puts an entry into the log.
 * @param actor whoever did it; null where nobody is signed in
 * @param db the transaction in which it was done, so that both stand or neither does; left out for what is
 *   worth knowing even though nothing came of it
 */
export async function noteEntry(actor: Actor | null, entry: LogEntry, db: Db = getPool()): Promise<void> {
  await officeLog.insertLog(db, {
    what: entry.what,
    by_person: actor?.id || null,
    via: actor && viaText(actor.via),
    address: callerNow()?.address ?? "",
    data: entry.data,
  });
}

import { at, owners, type Db } from "@/db";
import { viaText, type Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";

/** What stands on a process's own log, for those who may design it. */
interface ProcessLogData {
  made: { owners: string[] };
  released: { version: string };
  /** Nobody can ask any more; and again. */
  closed: Record<never, never>;
  opened: { version: string };
  "owners proposed": { owners: string[]; note: string };
  "owners changed": { before: string[]; after: string[]; proposedBy: string; note: string };
  "proposal dropped": { owners: string[] };
  /** By the office, where none of its owners was left. */
  "owner named": { before: string[]; person: string };
}
export type ProcessLogKind = keyof ProcessLogData;
export type ProcessLogEntry = { [K in ProcessLogKind]: { what: K; data: ProcessLogData[K] } }[ProcessLogKind];

/** Puts an entry on a process's log, in the transaction in which it was done. */
export async function noteOnProcess(
  db: Db,
  actor: Actor,
  process: string,
  entry: ProcessLogEntry,
  when?: number,
): Promise<void> {
  await owners.insertProcessLog(db, process, {
    at: at(when ?? (await nowMs(db)))!,
    what: entry.what,
    by_person: actor.id || null,
    via: viaText(actor.via),
    data: entry.data,
  });
}

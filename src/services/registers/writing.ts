import type { Someone, StoredRecord } from "@/core/form";
import type { RecordValues } from "@/core/records";
import type { Db, RecordRow, recordStarts } from "@/db";
import type { FileReach } from "../files/fileFacts";
import type { Directory } from "../kernel/directory";

/** On whose behalf records are written, when, and by what. */
export interface Writing {
  /** A transaction: what is refused is taken back to a savepoint of it. */
  db: Db;
  directory: Directory;
  /** Application time, epoch milliseconds. */
  at: number;
  /** Who does it; null where nobody in particular does. */
  by: string | null;
  /** How they acted: a session, a key. */
  via: string | null;
  /** The number of the request that does it. */
  request: string | null;
  /** Who led to it: whoever writes by hand, or asked for the request that writes. */
  behind: Someone | null;
  /** By what the request that writes was started; empty where a hand writes. */
  chain: readonly recordStarts.Cause[];
  /** Where a request writes, what is known of it: it may not be kept yet when a record is to link to it. */
  own?: StoredRecord;
  /** Where a request writes, the files that it may hand over: records get copies of them. */
  files?: FileReach;
  /** It starts no requests. */
  quietly?: boolean;
  /** Of the requests it starts so many begin in a minute; `begun` counts them over all that is written so. */
  pace?: { aMinute: number; begun: number };
}

/** One record that is to be written as it was decided. */
export interface Planned {
  nth: number;
  before: RecordRow | null;
  /** What it becomes; null where it goes. */
  values: RecordValues | null;
}

import { startsBy, type RecordProgram, type RecordStartProgram } from "@/core/records";
import { untoldStart } from "@/core/words";
import { at, recordStarts, type Client, type RecordRow } from "@/db";
import type { Directory, Offered } from "../kernel/directory";
import { engineFacts, factsReader } from "../requests/facts";
import { nearOf } from "./startsByRecords";

interface Starting {
  offered: Offered;
  /** Of the start. */
  id: string;
  program: RecordStartProgram;
  p: RecordProgram;
  /** What of it starts them: a date of theirs that came near, or a day. */
  did: "near" | "day";
  /** The date for which a record starts one. */
  dateOf(record: RecordRow): string;
  /** Again for the same date of a record. */
  again: boolean;
}

/**
 * Keeps which of these records start a request, as they are; what cannot be told is kept with the reason.
 * @returns how many were kept that had not been before
 */
export async function keepStarting(
  db: Client,
  d: Directory,
  { offered, id, program, p, did, dateOf, again }: Starting,
  rows: readonly RecordRow[],
  now: number,
): Promise<number> {
  const reader = factsReader(db, d, { fields: p.form.fields }, { request: null, by: [] });
  const facts = engineFacts(d, await reader.load([], ...rows), now);
  const made = await recordStarts.insertRecordStarts(
    db,
    rows.flatMap((after) => {
      const starts = startsBy(program, p, nearOf(after), facts);
      if (starts === false) return [];
      const record = `${p.shape.key}/${after.id}`;
      return [
        {
          process_key: offered.process,
          start_id: id,
          register_key: p.shape.key,
          record_id: after.id,
          did,
          before: null,
          after,
          at: at(now)!,
          behind: null,
          chain: [{ process: offered.process, record }],
          due_at: at(now)!,
          why: starts === true ? null : untoldStart(starts.why),
          for_date: dateOf(after),
          again,
        },
      ];
    }),
  );
  return made.length;
}

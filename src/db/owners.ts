import type { Db } from "./pool";

export interface OwnerProposal {
  owners: string[];
  by: string;
  note: string;
  at: number;
}
export async function proposalOf(db: Db, process: string): Promise<OwnerProposal | null> {
  const { rows } = await db.query(
    "select owners, by_person as by, note, at from owner_proposal where process_key = $1",
    [process],
  );
  return rows[0] ?? null;
}
/** All proposals there are, with what the processes are called. */
export const allProposals = async (
  db: Db,
): Promise<(OwnerProposal & { process: string; name: string; now: string[] })[]> =>
  (
    await db.query(
      `
        select
          o.process_key as process,
          d.definition ->> 'name' as name,
          o.owners,
          o.by_person as by,
          o.note,
          o.at,
          array(
            select person_id
            from process_owner w
            where w.process_key = o.process_key
          ) as now
        from owner_proposal o join process_draft d on d.process_key = o.process_key
        order by o.at
      `,
    )
  ).rows;

/** Keeps a proposal; an earlier one of the process gives way. */
export const putProposal = (
  db: Db,
  process: string,
  p: { owners: readonly string[]; by: string; note: string; at: string },
) =>
  db.query(
    `
      insert into owner_proposal (process_key, owners, by_person, note, at)
      values ($1, $2, $3, $4, $5)
      on conflict (process_key) do update
      set owners = excluded.owners, by_person = excluded.by_person, note = excluded.note, at = excluded.at
    `,
    [process, p.owners, p.by, p.note, p.at],
  );
export const dropProposal = (db: Db, process: string) =>
  db.query("delete from owner_proposal where process_key = $1", [process]);

export interface ProcessLogRow {
  id: string;
  at: number;
  what: string;
  by_person: string | null;
  via: string | null;
  data: Record<string, unknown>;
}
export const insertProcessLog = (
  db: Db,
  process: string,
  e: Omit<ProcessLogRow, "id" | "at"> & { at: string },
) =>
  db.query(
    `
      insert into process_log (process_key, at, what, by_person, via, data)
      values ($1, $2, $3, $4, $5, $6)
    `,
    [process, e.at, e.what, e.by_person, e.via, JSON.stringify(e.data)],
  );
export const processLog = async (db: Db, process: string, limit: number): Promise<ProcessLogRow[]> =>
  (
    await db.query(
      `
        select id, at, what, by_person, via, data
        from process_log
        where process_key = $1
        order by id desc
        limit $2
      `,
      [process, limit],
    )
  ).rows;

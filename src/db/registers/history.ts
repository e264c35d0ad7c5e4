import type { Db } from "../pool";

export interface HistoryRow {
  id: string;
  at: number;
  by_person: string | null;
  via: string | null;
  request_number: string | null;
  did: "added" | "changed" | "removed";
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}
/** A change to be kept: of one that changed only the columns that did. */
export interface HistoryEntry {
  register: string;
  record: string;
  at: string;
  by: string | null;
  /** How whoever did it acted. */
  via: string | null;
  request: string | null;
  did: HistoryRow["did"];
  before: unknown;
  after: unknown;
}
/** Keeps changes in their order. @returns the version each record has by it */
export async function insertHistory(db: Db, changes: readonly HistoryEntry[]): Promise<string[]> {
  if (changes.length === 0) return [];
  const { rows } = await db.query(
    `
      insert into
        register_history (register_key, record_id, at, by_person, via, request_number, did, before, after)
      select h.register, h.record, h.at, h.by, h.via, h.request, h.did, nullif(h.before, 'null'), nullif(h.after, 'null')
      from
        jsonb_to_recordset($1::jsonb) as h (
          register text,
          record bigint,
          at timestamptz,
          by text,
          via text,
          request text,
          did text,
          before jsonb,
          after jsonb
        )
      returning id::text as id
    `,
    [JSON.stringify(changes)],
  );
  return rows.map((r) => r.id);
}

/** By id, the version each record is of: that of its last change, "0" of one nobody has changed since it was seeded. */
export async function versionsOf(
  db: Db,
  register: string,
  ids: readonly string[],
): Promise<Map<string, string>> {
  const { rows } = await db.query(
    `
      select i.id::text as id, coalesce(h.id, 0)::text as version
      from
        unnest($2::bigint[]) i (id)
        left join lateral (
          select id
          from register_history h
          where h.register_key = $1 and h.record_id = i.id
          order by h.id desc
          limit 1
        ) h on true
    `,
    [register, ids],
  );
  return new Map(rows.map((r) => [r.id, r.version]));
}

export const historyOf = async (
  db: Db,
  register: string,
  record: string,
  limit: number,
): Promise<HistoryRow[]> =>
  (
    await db.query(
      `
        select id, at, by_person, via, request_number, did, before, after
        from register_history
        where register_key = $1 and record_id = $2
        order by id desc
        limit $3
      `,
      [register, record, limit],
    )
  ).rows;

/** Records that were removed and not put back, the last first. */
export const removedFrom = async (
  db: Db,
  register: string,
  limit: number,
): Promise<(HistoryRow & { record_id: string })[]> =>
  (
    await db.query(
      `
        select
          id::text as id, record_id::text as record_id, at, by_person, via, request_number, did, before, after
        from register_history
        where register_key = $1 and did = 'removed' and put_back is null
        order by register_history.id desc
        limit $2
      `,
      [register, limit],
    )
  ).rows;

/** Notes of which record one that was removed has become. */
export const markPutBack = (db: Db, change: string, record: string) =>
  db.query("update register_history set put_back = $2 where id = $1", [change, record]);

/** One change of a register, with the record it is of, held until the transaction ends; null where there is none. */
export const historyEntry = async (
  db: Db,
  register: string,
  id: string,
): Promise<(Pick<HistoryRow, "did" | "before"> & { record_id: string; put_back: string | null }) | null> =>
  (
    await db.query(
      `
        select record_id::text as record_id, did, before, put_back::text as put_back
        from register_history
        where id = $2 and register_key = $1
        for update
      `,
      [register, id],
    )
  ).rows[0] ?? null;

import type { ColumnNames } from "@/core/form";
import type { Edit, ProcessDefinition } from "@/core/route";
import { readProcess } from "@/formats";
import { MOST_COUNTED } from "./cappedCount";
import type { Db } from "./pool";
import { likePart } from "./likePart";

export interface ReleaseRow {
  id: string;
  process_key: string;
  version: string;
  note: string;
  /** As it was released. What it comes to now, by what columns are called since, `definitionNow` says. */
  released: ProcessDefinition;
  /** What columns of registers were called as it was checked. */
  names: ColumnNames;
  state: "released" | "live" | "retired";
  released_at: number;
  released_by: string | null;
}
export interface DraftRow {
  process_key: string;
  definition: ProcessDefinition;
  version: number;
  changed_at: number;
  changed_by: string | null;
}

export const insertProcess = async (db: Db, key: string, at: string, owners: readonly string[]) => {
  await db.query("insert into process (key, created_at) values ($1,$2)", [key, at]);
  await setOwners(db, key, owners);
};
export const setOwners = async (db: Db, key: string, owners: readonly string[]) => {
  await db.query("delete from process_owner where process_key = $1 and person_id <> all($2)", [key, owners]);
  await db.query(
    `
      insert into process_owner (process_key, person_id)
      select $1, unnest($2::text[])
      on conflict do nothing
    `,
    [key, owners],
  );
};
export const ownedBy = async (db: Db, person: string): Promise<{ key: string; name: string }[]> =>
  (
    await db.query(
      `
        select o.process_key as key, d.definition ->> 'name' as name
        from process_owner o join process_draft d on d.process_key = o.process_key
        where o.person_id = $1
        order by 2
      `,
      [person],
    )
  ).rows;
export const ownersOf = async (db: Db, key: string): Promise<string[]> =>
  (await db.query("select person_id from process_owner where process_key = $1", [key])).rows.map(
    (r) => r.person_id,
  );

/** Releases never change: what was read of one is read once. */
const read = new Map<string, Pick<ReleaseRow, "released" | "names">>();
const MAX_READ = 200;
type Stored = Omit<ReleaseRow, "released"> & { definition: unknown };
function current(row: Stored | undefined): ReleaseRow | null {
  if (!row) return null;
  const { definition, names, ...rest } = row;
  let known = read.get(row.id);
  if (!known) {
    known = { released: readProcess(definition), names };
    if (read.size >= MAX_READ) read.delete(read.keys().next().value!);
    read.set(row.id, known);
  }
  return { ...rest, ...known };
}

/** All of a release but its definition and names, which are much longer than the rest. */
const WITHOUT = "r.id, r.process_key, r.version, r.note, r.state, r.released_at, r.released_by";

/** @param hold whether the process must stay until the transaction ends: a request is made of it */
export async function liveRelease(db: Db, process: string, hold = false): Promise<ReleaseRow | null> {
  const { rows } = await db.query({
    name: hold ? "live-release-held" : "live-release",
    text: `
      select ${WITHOUT}
      from process p join process_release r on r.id = p.live_release
      where p.key = $1
      ${hold ? "for key share of p" : ""}
    `,
    values: [process],
  });
  const row = rows[0];
  if (!row) return null;
  const known = read.get(row.id);
  return known ? { ...row, ...known } : releaseById(db, row.id);
}
export async function releaseById(db: Db, id: string): Promise<ReleaseRow | null> {
  return current((await db.query("select * from process_release where id = $1", [id])).rows[0]);
}
/** Ids of the releases that are live of some processes, by key. */
export const liveIds = async (db: Db, keys: readonly string[]): Promise<Record<string, string>> =>
  Object.fromEntries(
    (
      await db.query(
        "select key, live_release from process where key = any($1::text[]) and live_release is not null",
        [keys],
      )
    ).rows.map((r) => [r.key, r.live_release]),
  );
/** The id of a release by its version; null where there is none. */
export const releaseOfVersion = async (db: Db, key: string, version: string): Promise<string | null> =>
  (await db.query("select id from process_release where process_key = $1 and version = $2", [key, version]))
    .rows[0]?.id ?? null;
/** The keys and names of all processes and procedures, as their drafts say. */
export const namesOf = async (db: Db): Promise<{ key: string; name: string }[]> =>
  (
    await db.query(
      "select process_key as key, definition ->> 'name' as name from process_draft order by definition ->> 'name'",
    )
  ).rows;

/** The releases that are live of procedures, and of processes whose requests steps of others may start. */
export const liveHandedTo = async (db: Db): Promise<(ReleaseRow & { versions: string[] })[]> =>
  (
    await db.query(
      `
        select
          r.*,
          array(
            select x.version
            from process_release x
            where x.process_key = p.key
            order by x.id
          ) as versions
        from process p join process_release r on r.id = p.live_release
        where
          r.definition -> 'procedure' = 'true'
          or jsonb_path_exists(r.definition, '$.starts[*] ? (@.kind == "handed")')
        order by r.definition ->> 'name'
      `,
    )
  ).rows.map((r) => ({ ...current(r)!, versions: r.versions }));

/** How many processes hand to each procedure or start requests of each process, by its key: as drafts or live. */
export const handedTo = async (db: Db): Promise<Record<string, number>> =>
  Object.fromEntries(
    (
      await db.query(
        `
          with
            d as (
              select process_key as key, definition
              from process_draft
              union all
              select p.key, r.definition
              from process p join process_release r on r.id = p.live_release
            )
          select h #>> '{}' as procedure, count(distinct d.key)::int as n
          from
            d,
            lateral (
              select jsonb_path_query(d.definition, '$.route.** ? (@.kind == "hand to").procedure')
              union all
              select jsonb_path_query(d.definition, '$.route.** ? (@.kind == "start request").process')
            ) x (h)
          group by 1
        `,
      )
    ).rows.map((r) => [r.procedure, r.n]),
  );

export interface CallerRow {
  key: string;
  /** Null for the draft. */
  version: string | null;
  definition: ProcessDefinition;
}
/**
 * Drafts and releases with a step that hands to a procedure, or starts a request of a process.
 * @param all also releases that are not live any more
 */
export const callersOf = async (db: Db, procedure: string, all = false): Promise<CallerRow[]> =>
  (
    await db.query(
      `
        with
          d as (
            select process_key as key, null as version, definition, null as id
            from process_draft
            union all
            select r.process_key, r.version, r.definition, r.id
            from process_release r join process p on p.key = r.process_key
            where $2 or p.live_release = r.id
          )
        select key, version, definition
        from d
        where
          jsonb_path_exists(
            definition,
            '$.route.** ? (@.kind == "hand to" && @.procedure == $key || @.kind == "start request" && @.process == $key)',
            jsonb_build_object('key', $1::text)
          )
        order by key, id nulls last
      `,
      [procedure, all],
    )
  ).rows.map((r) => ({ ...r, definition: readProcess(r.definition) }));

/** Drafts and live releases in whose text a key stands as a whole, with the owners of their processes. */
export const definitionsNaming = async (db: Db, key: string): Promise<(CallerRow & { owners: string[] })[]> =>
  (
    await db.query(
      `
        with
          d as (
            select process_key as key, null as version, definition
            from process_draft
            union all
            select p.key, r.version, r.definition
            from process p join process_release r on r.id = p.live_release
          )
        select
          key,
          version,
          definition,
          array(
            select o.person_id
            from process_owner o
            where o.process_key = d.key
          ) as owners
        from d
        where position($1 in definition::text) > 0
        order by key, version nulls last
      `,
      // As it is written inside a text.
      [JSON.stringify(key).slice(1, -1)],
    )
  ).rows.map((r) => ({ ...r, definition: readProcess(r.definition) }));

export const liveReleases = async (db: Db): Promise<ReleaseRow[]> =>
  (
    await db.query(
      `
        select r.*
        from process p join process_release r on r.id = p.live_release
        order by r.definition ->> 'name'
      `,
    )
  ).rows.map((r) => current(r)!);
export const releasesOf = async (
  db: Db,
  process: string,
): Promise<Omit<ReleaseRow, "released" | "names">[]> =>
  (
    await db.query(
      `
        select id, process_key, version, note, state, released_at, released_by
        from process_release
        where process_key = $1
        order by id desc
      `,
      [process],
    )
  ).rows;

/** Processes that are live and read a register, with the columns they read as kept with their release. */
export const releasesReading = async (
  db: Db,
  register: string,
): Promise<
  {
    process_key: string;
    name: string;
    version: string;
    released_by: string | null;
    columns: string[] | null;
  }[]
> =>
  (
    await db.query(
      `
        select
          r.process_key,
          r.definition ->> 'name' as name,
          r.version,
          r.released_by,
          r.reads -> $1 as columns
        from process p join process_release r on r.id = p.live_release
        where r.reads ? $1 or (r.reads is null and position($2 in r.definition::text) > 0)
        order by 2
      `,
      [register, JSON.stringify(register)],
    )
  ).rows;

/** A release that something goes by, now or at any time to come. */
export interface ReleaseInUse {
  id: string;
  name: string;
  version: string;
  live: boolean;
  /** Requests under way of it, counted up to a thousand; of a procedure's release those are its callers'. */
  open: number;
  /** The columns it reads of the register, by what was kept with it; null where nothing was. */
  columns: string[] | null;
}

/**
 * Releases that read columns of a register and are live, have requests under way, or are of procedures that requests
 * under way may be in or may come to: those begun before the next release of it, and those that name its version.
 */
export const releasesInUse = async (db: Db, register: string): Promise<ReleaseInUse[]> =>
  (
    await db.query(
      `
        select
          r.id::text as id,
          r.definition ->> 'name' as name,
          r.version,
          p.live_release is not null as live,
          o.n as open,
          r.reads -> $1 as columns
        from
          process_release r
          left join process p on p.live_release = r.id
          cross join lateral (
            select count(*)::int as n
            from (select from request q where q.release_id = r.id and q.ended_at is null limit 1000) x
          ) o
        where
          (r.reads ? $1 or (r.reads is null and position($2 in r.definition::text) > 0))
          and (
            p.live_release is not null
            or o.n > 0
            or r.definition -> 'procedure' = 'true'
            and (
              exists (
                select
                from request q
                where
                  q.ended_at is null
                  and q.started_at < (
                    select min(x.released_at)
                    from process_release x
                    where x.process_key = r.process_key and x.id > r.id
                  )
              )
              or exists (
                select
                from process_release x
                where
                  position(to_jsonb(r.process_key)::text in x.definition::text) > 0
                  and position('"version": ' || to_jsonb(r.version)::text in x.definition::text) > 0
              )
            )
          )
        order by 2, 3
      `,
      [register, JSON.stringify(register)],
    )
  ).rows;

/** Drafts in whose text one of these names stands, by the process's key. */
export const draftsSaying = async (db: Db, names: readonly string[]): Promise<DraftRow[]> =>
  (
    await db.query(
      `
        select d.*
        from process_draft d
        where exists (select from unnest($1::text[]) n where position(n in d.definition::text) > 0)
        order by d.process_key
      `,
      // As it is written inside a text.
      [names.map((n) => JSON.stringify(n).slice(1, -1))],
    )
  ).rows.map((r) => ({ ...r, definition: readProcess(r.definition) }));

/** Puts a release to work, or none: then nobody can ask. */
export async function setLive(db: Db, process: string, release: string | null): Promise<void> {
  await db.query("update process_release set state = 'retired' where process_key = $1 and state = 'live'", [
    process,
  ]);
  if (release !== null)
    await db.query("update process_release set state = 'live' where process_key = $1 and id = $2", [
      process,
      release,
    ]);
  await db.query("update process set live_release = $2 where key = $1", [process, release]);
}

/**
 * Whether a process was ever used: by a request, or by another that hands to it. Held, so that nobody begins to before
 * the transaction ends.
 */
export async function everUsed(db: Db, process: string, hold = false): Promise<boolean> {
  if (hold) await db.query("select 1 from process where key = $1 for update", [process]);
  const { rowCount } = await db.query("select 1 from request where process_key = $1 limit 1", [process]);
  if ((rowCount ?? 0) > 0) return true;
  // All releases there are have to be asked.
  return (await callersOf(db, process, true)).some((c) => c.key !== process);
}
/** With its draft, its releases and all that hangs on them. */
export const deleteProcess = (db: Db, process: string) =>
  db.query("delete from process where key = $1", [process]);

/** What request numbers of the processes start with: of their drafts and of what is live, by process. */
export const prefixesOf = async (db: Db): Promise<{ key: string; name: string; prefix: string }[]> =>
  (
    await db.query(
      `
        select d.process_key as key, d.definition ->> 'name' as name, x.prefix
        from
          process_draft d
          join process p on p.key = d.process_key
          left join process_release r on r.id = p.live_release
          cross join lateral (
            select d.definition #>> '{numbering,prefix}' as prefix
            union
            select r.definition #>> '{numbering,prefix}'
          ) x
        where x.prefix <> ''
      `,
    )
  ).rows;

export async function insertRelease(
  db: Db,
  r: {
    process: string;
    version: string;
    note: string;
    definition: unknown;
    at: string;
    by: string | null;
    reads?: Readonly<Record<string, readonly string[]>>;
    names: ColumnNames;
  },
): Promise<string> {
  await db.query("update process_release set state = 'retired' where process_key = $1 and state = 'live'", [
    r.process,
  ]);
  const { rows } = await db.query(
    `
      insert into
        process_release (process_key, version, note, definition, state, released_at, released_by, reads, names)
      values ($1, $2, $3, $4, 'live', $5, $6, $7, $8)
      returning id
    `,
    [
      r.process,
      r.version,
      r.note,
      JSON.stringify(r.definition),
      r.at,
      r.by,
      r.reads ? JSON.stringify(r.reads) : null,
      JSON.stringify(r.names),
    ],
  );
  await db.query("update process set live_release = $2 where key = $1", [r.process, rows[0].id]);
  return rows[0].id;
}

export async function draftOf(db: Db, process: string, lock = false): Promise<DraftRow | null> {
  const { rows } = await db.query(
    `select * from process_draft where process_key = $1${lock ? " for update" : ""}`,
    [process],
  );
  return rows[0] ? { ...rows[0], definition: readProcess(rows[0].definition) } : null;
}
export const insertDraft = (db: Db, process: string, definition: unknown, at: string, by: string | null) =>
  db.query(
    `
      insert into process_draft (process_key, definition, version, changed_at, changed_by)
      values ($1, $2, 0, $3, $4)
    `,
    [process, JSON.stringify(definition), at, by],
  );
export interface DraftSave {
  process: string;
  definition: unknown;
  version: number;
  at: string;
  by: string;
  via: string | null;
  edits: { edit: unknown; inverse: unknown }[];
}
export async function saveDraft(db: Db, d: DraftSave): Promise<void> {
  await db.query(
    `
      update process_draft
      set definition = $2, version = $3, changed_at = $4, changed_by = $5
      where process_key = $1
    `,
    [d.process, JSON.stringify(d.definition), d.version, d.at, d.by],
  );
  await db.query(
    `
      insert into process_edit (process_key, version, edit, inverse, at, by_person, via)
      select $1, (e ->> 'version')::int, e -> 'edit', e -> 'inverse', $3, $4, $5
      from jsonb_array_elements($2::jsonb) e
    `,
    [
      d.process,
      JSON.stringify(d.edits.map((e, i) => ({ ...e, version: d.version - d.edits.length + i + 1 }))),
      d.at,
      d.by,
      d.via,
    ],
  );
}

/** The edits of a draft after a version, oldest first. */
export const editsSince = async (
  db: Db,
  process: string,
  version: number,
  limit: number,
): Promise<{ version: number; edit: Edit; inverse: Edit; by_person: string | null }[]> =>
  (
    await db.query(
      `
        select version, edit, inverse, by_person
        from process_edit
        where process_key = $1 and version > $2
        order by version
        limit $3
      `,
      [process, version, limit],
    )
  ).rows;

export interface ProcessListRow {
  key: string;
  name: string;
  purpose: string;
  owners: string[];
  /** Whether it is a procedure. */
  procedure: boolean;
  version: string | null;
  released_at: number | null;
  changed_at: number;
  draft_differs: boolean;
  under_way: number;
  stuck: number;
}
export const listProcesses = async (db: Db): Promise<ProcessListRow[]> =>
  (
    await db.query(
      `
        select
          p.key,
          d.definition ->> 'name' as name,
          d.definition ->> 'purpose' as purpose,
          d.definition ? 'procedure' as procedure,
          array(
            select person_id
            from process_owner o
            where o.process_key = p.key
            order by 1
          ) as owners,
          r.version,
          r.released_at,
          d.changed_at,
          (
            r.id is null
            or r.definition - 'owners' is distinct from d.definition - 'owners'
          ) as draft_differs,
          (
            select count(*)::int
            from
              (
                select 1
                from request q
                where q.process_key = p.key and q.ended_at is null
                limit ${MOST_COUNTED + 1}
              ) x
          ) as under_way,
          (
            select count(*)::int
            from
              (
                select 1
                from request q
                where q.process_key = p.key and q.status = 'stuck'
                limit ${MOST_COUNTED + 1}
              ) x
          ) as stuck
        from
          process p
          join process_draft d on d.process_key = p.key
          left join process_release r on r.id = p.live_release
        order by name
      `,
    )
  ).rows;

/**
 * Drafts that hold these words anywhere, with who owns the process. Read in the database: what holds them
 * nowhere is not fetched and not read, since all drafts of an office are megabytes at every key typed.
 */
export const draftsHolding = async (
  db: Db,
  words: string,
): Promise<{ definition: ProcessDefinition; owners: string[] }[]> =>
  (
    await db.query(
      `
        select
          d.definition,
          array(
            select person_id
            from process_owner o
            where o.process_key = d.process_key
          ) as owners
        from process_draft d
        where d.definition::text ilike $1
        order by d.process_key
      `,
      // As the words stand in JSON: a quotation mark has a backslash before it there.
      [likePart(JSON.stringify(words).slice(1, -1))],
    )
  ).rows.map((r) => ({ ...r, definition: readProcess(r.definition) }));

export async function nextNumber(db: Db, prefix: string): Promise<number> {
  const { rows } = await db.query({
    name: "next-number",
    text: `
      insert into process_counter (prefix, last)
      values ($1, 1)
      on conflict (prefix) do update
      set last = process_counter.last + 1
      returning last
    `,
    values: [prefix],
  });
  return Number(rows[0].last);
}

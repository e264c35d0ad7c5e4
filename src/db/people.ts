import type { Db } from "./pool";

export interface PersonRow {
  id: string;
  name: string;
  email: string;
  job_title: string;
  department: string;
  site: string;
  manager_id: string | null;
  calendar_key: string | null;
  zone: string;
  office_rights: boolean;
  active: boolean;
  shows: string;
}
const COLUMNS =
  "id, name, email, job_title, department, site, manager_id, calendar_key, zone, office_rights, active, shows";

export interface ServiceRow {
  id: string;
  name: string;
  /** What it is for, in a sentence. */
  purpose: string;
  active: boolean;
}
/** Rows of people and of services, and what must be known to read only what changes after them. */
export interface PeopleRead {
  people: PersonRow[];
  services: ServiceRow[];
  /** How many rows there are in all. */
  count: number;
  /** What is written by a transaction from this one on was not seen, or may not have been. */
  floor: string;
  /** Which table it was, of which running server: one brought back from a backup is another, and numbers anew. */
  table: string;
  /** Whether the transaction that read has written something itself: it may be taken back, and what it saw with it. */
  own: boolean;
}
/** @param since the `floor` of an earlier reading; null for everybody */
export async function readPeople(db: Db, since: string | null): Promise<PeopleRead> {
  const { rows } = await db.query({
    name: since === null ? "people" : "people-since",
    text: `
      select
        ${COLUMNS},
        kind = 'service' as service,
        s.count,
        s.floor,
        s."table",
        s.own
      from
        (
          select
            (select count(*)::int from person where kind <> 'visitor') as count,
            pg_snapshot_xmin(pg_current_snapshot())::text as floor,
            pg_postmaster_start_time()::text || ' ' || to_regclass('person')::oid as "table",
            pg_current_xact_id_if_assigned() is not null as own
        ) s
        left join person on kind <> 'visitor' and ${since === null ? "true" : "changed >= $1::xid8"}
    `,
    values: since === null ? [] : [since],
  });
  const { count, floor, table, own } = rows[0];
  // Without any row that is meant there is one that holds only what is known of all.
  const all = rows.filter((r) => r.id !== null);
  return {
    count,
    floor,
    table,
    own,
    people: all
      .filter((r) => !r.service)
      .map(({ service: _s, count: _c, floor: _f, table: _t, own: _o, ...p }) => p as PersonRow),
    services: all
      .filter((r) => r.service)
      .map((r) => ({ id: r.id, name: r.name, purpose: r.job_title, active: r.active })),
  };
}

/** False when the id or the name is taken. */
export async function insertService(db: Db, s: ServiceRow): Promise<boolean> {
  const { rowCount } = await db.query(
    `
      insert into person (id, name, job_title, kind, active)
      select $1, $2, $3, 'service', $4
      where
        not exists (
          select
          from person
          where kind = 'service' and lower(name) = lower($2)
        )
      on conflict do nothing
    `,
    [s.id, s.name, s.purpose, s.active],
  );
  return rowCount === 1;
}
export const setServiceActive = async (db: Db, id: string, active: boolean): Promise<boolean> =>
  ((await db.query("update person set active = $2 where id = $1 and kind = 'service'", [id, active]))
    .rowCount ?? 0) > 0;

/** @param email as `emailKey` has it */
export async function personByEmail(
  db: Db,
  email: string,
): Promise<(PersonRow & { password_hash: string | null }) | null> {
  const { rows } = await db.query(
    `select ${COLUMNS}, password_hash from person where email = $1 and active`,
    [email],
  );
  return rows[0] ?? null;
}
export async function personById(
  db: Db,
  id: string,
): Promise<(PersonRow & { password_hash: string | null }) | null> {
  const { rows } = await db.query(
    `select ${COLUMNS}, password_hash from person where id = $1 and kind = 'person' and active`,
    [id],
  );
  return rows[0] ?? null;
}

export async function insertPerson(db: Db, p: PersonRow & { password_hash: string | null }): Promise<void> {
  await db.query(
    `
      insert into person (${COLUMNS}, password_hash)
      values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)
    `,
    [
      p.id,
      p.name,
      p.email,
      p.job_title,
      p.department,
      p.site,
      p.manager_id,
      p.calendar_key,
      p.zone,
      p.office_rights,
      p.active,
      p.shows,
      p.password_hash,
    ],
  );
}

export interface AbsenceRow {
  person_id: string;
  starts: number;
  ends: number;
  cover_id: string | null;
  /** Who answers in a duty of theirs, where that is another. */
  covers: readonly DutyCover[];
  /** What is open when it begins stays with them. */
  stays: boolean;
}
export interface DutyCover {
  duty: string;
  cover: string;
}
export const allAbsences = async (db: Db): Promise<AbsenceRow[]> =>
  (
    await db.query<AbsenceRow>({
      name: "absences",
      text: "select person_id, starts, ends, cover_id, covers, stays from absence order by id",
    })
  ).rows;

export const insertAbsence = (
  db: Db,
  a: {
    person: string;
    starts: string;
    ends: string;
    cover: string | null;
    covers?: readonly DutyCover[];
    stays?: boolean;
  },
) =>
  db.query(
    "insert into absence (person_id, starts, ends, cover_id, covers, stays) values ($1,$2,$3,$4,$5,$6)",
    [a.person, a.starts, a.ends, a.cover, JSON.stringify(a.covers ?? []), a.stays ?? false],
  );

export const allGroups = async (db: Db): Promise<{ key: string; name: string; members: string[] }[]> =>
  (
    await db.query({
      name: "groups",
      text: `
        select
          g.key,
          g.name,
          coalesce(
            array_agg(
              m.person_id
              order by m.person_id
            ) filter (
              where m.person_id is not null
            ),
            '{}'
          ) as members
        from person_group g left join group_member m on m.group_key = g.key
        group by g.key
        order by g.name
      `,
    })
  ).rows;

export async function insertGroup(
  db: Db,
  key: string,
  name: string,
  members: readonly string[],
): Promise<void> {
  await db.query("insert into person_group (key, name) values ($1,$2)", [key, name]);
  await db.query("insert into group_member (group_key, person_id) select $1, unnest($2::text[])", [
    key,
    members,
  ]);
}

export const allCalendars = async (db: Db): Promise<unknown[]> =>
  (
    await db.query({ name: "calendars", text: "select definition from working_calendar order by key" })
  ).rows.map((r) => r.definition);
export const insertCalendar = (db: Db, key: string, definition: unknown) =>
  db.query("insert into working_calendar (key, definition) values ($1,$2)", [
    key,
    JSON.stringify(definition),
  ]);

import type { PersonRow } from "./people";
import type { Db } from "./pool";

/** What of a person the office may change. */
export type PersonPatch = Partial<
  Pick<
    PersonRow,
    | "name"
    | "email"
    | "job_title"
    | "department"
    | "site"
    | "manager_id"
    | "calendar_key"
    | "zone"
    | "office_rights"
    | "active"
  >
>;
const CHANGEABLE = [
  "name",
  "email",
  "job_title",
  "department",
  "site",
  "manager_id",
  "calendar_key",
  "zone",
  "office_rights",
  "active",
] as const satisfies readonly (keyof PersonPatch)[];

export async function updatePerson(db: Db, id: string, patch: PersonPatch): Promise<void> {
  const columns = CHANGEABLE.filter((c) => patch[c] !== undefined);
  if (columns.length === 0) return;
  await db.query(
    `update person set ${columns.map((c, i) => `${c} = $${i + 2}`).join(", ")} where id = $1 and kind = 'person'`,
    [id, ...columns.map((c) => patch[c])],
  );
}
/** Changes of people one after another: rules over several of them (managers, the last with rights) hold only so. */
export const lockPeople = (db: Db) => db.query("select pg_advisory_xact_lock(72003)");

export interface OpenTaskRow {
  number: string;
  title: string;
  process: string;
  task: string;
  step: string;
}
/** Tasks somebody has or is asked for, oldest first. */
export const openTasksOf = async (db: Db, person: string): Promise<OpenTaskRow[]> =>
  (
    await db.query<OpenTaskRow>(
      `
        select r.number, r.title, r.process_key as process, t.id as task, t.step_name as step
        from
          task_candidate c
          join task t on t.request_id = c.request_id and t.id = c.task_id
          join request r on r.id = c.request_id
        where c.person_id = $1 and c.open
        order by c.opened_at, r.id
        limit 5000
      `,
      [person],
    )
  ).rows;
export const requestsUnderWay = async (db: Db, person: string): Promise<number> =>
  (
    await db.query("select count(*)::int as n from request where requester_id = $1 and ended_at is null", [
      person,
    ])
  ).rows[0].n;
export const processesOwned = async (db: Db, person: string): Promise<string[]> =>
  (
    await db.query("select process_key from process_owner where person_id = $1 order by 1", [person])
  ).rows.map((r) => r.process_key);

/** How many people it was. */
export const renamePlace = async (
  db: Db,
  kind: "department" | "site",
  from: string,
  to: string,
): Promise<number> =>
  (await db.query(`update person set ${kind} = $2 where ${kind} = $1 and kind = 'person'`, [from, to]))
    .rowCount ?? 0;

/** Whoever covers for others passes that on, also in a duty of theirs; to nobody: then who answers otherwise does. */
export const passCovers = (db: Db, from: string, to: string | null, now: string) =>
  db.query(
    `
      update absence a
      set
        cover_id = case when cover_id = $1 then nullif($2, person_id) else cover_id end,
        covers = (
          select coalesce(jsonb_agg(case when c ->> 'cover' = $1 then c || jsonb_build_object('cover', $2::text) else c end), '[]')
          from jsonb_array_elements(a.covers) c
          where not (c ->> 'cover' = $1 and ($2::text is null or $2 = a.person_id))
        )
      where
        (cover_id = $1 or covers @> jsonb_build_array(jsonb_build_object('cover', $1::text)))
        and ends > $3
    `,
    [from, to, now],
  );
export const leaveGroups = (db: Db, person: string) =>
  db.query("delete from group_member where person_id = $1", [person]);

/** Absences that are not over yet end, and those to come go. */
export const endAbsences = async (db: Db, person: string, now: string): Promise<void> => {
  await db.query("delete from absence where person_id = $1 and starts >= $2", [person, now]);
  await db.query("update absence set ends = $2 where person_id = $1 and ends > $2", [person, now]);
};

export interface AbsenceEntry {
  id: string;
  starts: number;
  ends: number;
  cover_id: string | null;
  covers: readonly { duty: string; cover: string }[];
  stays: boolean;
}
export const absencesOf = async (db: Db, person: string): Promise<AbsenceEntry[]> =>
  (
    await db.query<AbsenceEntry>(
      "select id, starts, ends, cover_id, covers, stays from absence where person_id = $1 order by starts desc limit 100",
      [person],
    )
  ).rows;
export const deleteAbsence = async (db: Db, person: string, id: string): Promise<boolean> =>
  ((await db.query("delete from absence where id = $1 and person_id = $2", [id, person])).rowCount ?? 0) > 0;

/** Makes a group or changes what it is called and who is in it. */
export async function putGroup(db: Db, key: string, name: string, members: readonly string[]): Promise<void> {
  await db.query(
    "insert into person_group (key, name) values ($1, $2) on conflict (key) do update set name = excluded.name",
    [key, name],
  );
  await db.query("delete from group_member where group_key = $1 and person_id <> all($2)", [key, members]);
  await db.query(
    "insert into group_member (group_key, person_id) select $1, unnest($2::text[]) on conflict do nothing",
    [key, members],
  );
}
export const deleteGroup = (db: Db, key: string) =>
  db.query("delete from person_group where key = $1", [key]);

export const putCalendar = (db: Db, key: string, definition: unknown) =>
  db.query(
    `
      insert into working_calendar (key, definition)
      values ($1, $2)
      on conflict (key) do update
      set definition = excluded.definition
    `,
    [key, JSON.stringify(definition)],
  );
export const deleteCalendar = (db: Db, key: string) =>
  db.query("delete from working_calendar where key = $1", [key]);

/** Drafts and live releases whose text names something: a group, a calendar. */
export const processesNaming = async (db: Db, text: string): Promise<string[]> =>
  (
    await db.query(
      `
        select d.definition ->> 'name' as name
        from process_draft d
        where position($1 in d.definition::text) > 0
        union
        select r.definition ->> 'name'
        from process p join process_release r on r.id = p.live_release
        where position($1 in r.definition::text) > 0
        order by 1
      `,
      [JSON.stringify(text)],
    )
  ).rows.map((r) => r.name);

import type { Db } from "../pool";

export interface ViewRow {
  id: string;
  register_key: string;
  person_id: string | null;
  name: string;
  /** The parameters of the list's address. */
  view: string;
}

/** Somebody's views of a register, and those for everybody, by name. */
export const viewsOf = async (db: Db, register: string, person: string): Promise<ViewRow[]> =>
  (
    await db.query(
      `
        select id::text as id, register_key, person_id, name, view
        from register_view
        where register_key = $1 and (person_id is null or person_id = $2)
        order by lower(name), register_view.id
      `,
      [register, person],
    )
  ).rows;

export const viewById = async (db: Db, id: string): Promise<ViewRow | null> =>
  (
    await db.query(
      "select id::text as id, register_key, person_id, name, view from register_view where id = $1",
      [id],
    )
  ).rows[0] ?? null;

/** Keeps one; the same person's of the same name becomes this. */
export const keepView = (db: Db, v: Omit<ViewRow, "id"> & { at: string }) =>
  db.query(
    `
      insert into register_view (register_key, person_id, name, view, at)
      values ($1, $2, $3, $4, $5)
      on conflict (register_key, coalesce(person_id, ''), lower(name)) do update
      set name = excluded.name, view = excluded.view, at = excluded.at
    `,
    [v.register_key, v.person_id, v.name, v.view, v.at],
  );
export const removeView = (db: Db, id: string) => db.query("delete from register_view where id = $1", [id]);

/** All views of any register that ask for what meets a condition. */
export const viewsWithConditions = async (db: Db): Promise<ViewRow[]> =>
  (
    await db.query(
      "select id::text as id, register_key, person_id, name, view from register_view where position('where=' in view) > 0",
    )
  ).rows;

export const putView = (db: Db, id: string, view: string) =>
  db.query("update register_view set view = $2 where id = $1", [id, view]);

import type { Db } from "./pool";

/** The register that says who holds which duty; the directory reads it, processes may write it. */
export const ROLE_HOLDERS = "role_holders";

/** A change of people, groups, duties, calendars or registers: whoever keeps the directory reads it again. */
export const bumpDirectory = (db: Db) =>
  db.query(
    `
      update setting
      set value = to_jsonb((value #>> '{}')::bigint + 1)
      where key = 'directory_version'
    `,
  );

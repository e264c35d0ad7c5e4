import type { Db } from "./pool";

/** The register that says who holds which duty; the directory reads it, processes may write it. */
export const ROLE_HOLDERS = "role_holders";

/** Duties changed: whoever keeps the directory reads that part of it again. All other parts are told by triggers. */
export const bumpDuties = (db: Db) =>
  db.query("update setting set value = bumped(value, 'duties') where key = 'directory_version'");

/** The versions of all parts as one text: the same text, the same directory. */
export const directoryVersion = async (db: Db): Promise<string> =>
  (
    await db.query({
      name: "directory-version",
      text: "select value #>> '{}' as version from setting where key = 'directory_version'",
    })
  ).rows[0].version;

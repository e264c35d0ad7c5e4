import type { Db } from "./pool";

/** What files come to of one process, of the records of one register, or of neither. */
export interface FileSizesRow {
  of: "process" | "register" | "nobody";
  key: string;
  files: number;
  /** Of all of them, in bytes. */
  bytes: number;
}

/**
 * What is kept in files, by what they belong to, the most first; files of requests and of mails of a process together, and
 * apart from these what nobody has sent yet. Reads what is known of each file once, and nothing of what is in them.
 */
export const fileSizes = async (db: Db): Promise<FileSizesRow[]> =>
  (
    await db.query(
      `
        with
          by_request as (
            select request_id, register_key, count(*) as files, sum(size) as bytes
            from file
            group by request_id, register_key
          )
        select
          case
            when b.register_key is not null then 'register'
            when r.process_key is not null then 'process'
            else 'nobody'
          end as of,
          coalesce(b.register_key, r.process_key, '') as key,
          sum(b.files)::float8 as files,
          sum(b.bytes)::float8 as bytes
        from by_request b left join request r on r.id = b.request_id
        group by 1, 2
        order by bytes desc, of, key
      `,
    )
  ).rows;

/** How many templates and pictures of texts there are, and what they come to in bytes. */
export const otherSizes = async (
  db: Db,
): Promise<{ of: "templates" | "pictures"; files: number; bytes: number }[]> =>
  (
    await db.query(
      `
        select 'templates' as of, count(*)::float8 as files, coalesce(sum(size), 0)::float8 as bytes
        from template_file
        union all
        select 'pictures', count(*)::float8, coalesce(sum(octet_length(bytes)), 0)::float8
        from picture
      `,
    )
  ).rows;

/** Bytes of the whole database, with its indexes. */
export const databaseSize = async (db: Db): Promise<number> =>
  Number((await db.query("select pg_database_size(current_database()) as n")).rows[0]!.n);

import { countedSql, mostCounted } from "../cappedCount";
import type { Db } from "../pool";

export interface RequestListRow {
  number: string;
  title: string;
  process_key: string;
  process_name: string;
  requester_id: string;
  status: string;
  result: string | null;
  result_tone: string | null;
  started_at: number;
  ended_at: number | null;
  /** Who has it now: holders, or all who may take it. */
  waiting_for: string[];
  step: string | null;
  due_at: number | null;
}
export interface RequestFilter {
  requester?: string;
  process?: string;
  /** Only processes this person owns. */
  owner?: string;
  state?: "open" | "ended" | "stuck" | "late";
  search?: string;
  now: string;
  limit: number;
  offset: number;
}

/** Conditions on single requests, alias `r`. */
function conditions(f: RequestFilter, bind: (v: unknown) => string): string[] {
  const where: string[] = [];
  if (f.requester) where.push(`r.requester_id = ${bind(f.requester)}`);
  if (f.state === "open") where.push("r.ended_at is null");
  if (f.state === "ended") where.push("r.ended_at is not null");
  if (f.state === "stuck") where.push("r.status = 'stuck'");
  if (f.state === "late") where.push(`r.ended_at is null and r.due_at < ${bind(f.now)}`);
  if (f.search?.trim()) {
    const like = bind(`%${f.search.trim().replace(/[\\%_]/g, "\\$&")}%`);
    where.push(`(r.number ilike ${like} or r.title ilike ${like})`);
  }
  return where;
}

const orderOf = (f: RequestFilter): string =>
  f.state === "late" ? "r.due_at, r.id" : "r.started_at desc, r.id desc";

/**
 * The requests that are meant, in the order they are listed in: newest first, or past the limit the longest first. An
 * owner's are taken process by process, each by its index, because a list of processes would have everything sorted.
 * @param many whether there are more than are counted
 */
function listed(f: RequestFilter, bind: (v: unknown) => string, many: boolean): string {
  const where = conditions(f, bind);
  const and = (more: string[]) => [...where, ...more].map((c) => `(${c})`).join(" and ") || "true";
  const owned = f.owner
    ? `
        select process_key
        from process_owner
        where person_id = ${bind(f.owner)}${f.process ? ` and process_key = ${bind(f.process)}` : ""}
      `
    : null;
  const order = orderOf(f);
  // A rare word has an index of its own; a common one is soon found by going along the order.
  if (!owned || (f.search?.trim() && !many)) {
    const mine = owned ? [`r.process_key in (${owned})`] : [];
    return `
      select r.*
      from request r
      where ${and(!owned && f.process ? [`r.process_key = ${bind(f.process)}`] : mine)}
      order by ${order}
    `;
  }
  const upTo = bind(f.offset + f.limit);
  return `
    select r.*
    from
      (${owned}) o
      cross join lateral (
        select *
        from request r
        where ${and(["r.process_key = o.process_key"])}
        order by ${order}
        limit ${upTo}
      ) r
    order by ${order}
  `;
}

/** How many there are, up to `mostCounted`. */
function counted(f: RequestFilter, bind: (v: unknown) => string): string {
  const where = conditions(f, bind);
  if (f.process) where.push(`r.process_key = ${bind(f.process)}`);
  if (f.owner)
    where.push(
      `exists (select 1 from process_owner o where o.process_key = r.process_key and o.person_id = ${bind(f.owner)})`,
    );
  const all = where.join(" and ") || "true";
  return countedSql(`from request r where ${all}`, mostCounted(f.search));
}

async function count(db: Db, f: RequestFilter): Promise<number> {
  const values: unknown[] = [];
  const sql = counted(f, (v) => `$${values.push(v)}`);
  return (await db.query(sql, values)).rows[0].n;
}

/** One page of requests, and how many there are, counted up to `mostCounted`. */
export async function listRequests(
  db: Db,
  f: RequestFilter,
): Promise<{ rows: RequestListRow[]; total: number }> {
  // Whether a word is rare must be known before the list is asked for.
  const most = mostCounted(f.search);
  const known = f.search?.trim() || f.offset >= most ? await count(db, f) : null;
  if (f.offset >= most) return { rows: [], total: known! };
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const rows = (
    await db.query(
      `
        select
          ${known === null ? `(${counted(f, bind)})` : known} as total,
          r.number,
          r.title,
          r.process_key,
          l.definition ->> 'name' as process_name,
          r.requester_id,
          r.status,
          r.result,
          r.result_tone,
          r.started_at,
          r.ended_at,
          (
            select min(t.step_name)
            from task t
            where t.request_id = r.id and t.ended_at is null
          ) as step,
          r.due_at,
          array(
            select distinct c.person_id
            from task_candidate c
            where c.request_id = r.id and c.open
            order by 1
          ) as waiting_for
        from
          (${listed(f, bind, (known ?? 0) > most)} limit ${bind(f.limit)} offset ${bind(f.offset)}) r
          join process_release l on l.id = r.release_id
        order by ${orderOf(f)}
      `,
      values,
    )
  ).rows;
  // A page behind the last says nothing of how many there are.
  return { rows, total: rows[0]?.total ?? known ?? (f.offset === 0 ? 0 : await count(db, f)) };
}

import type { Party } from "@/core/form";
import { countedSql, mostCounted } from "../cappedCount";
import type { Db } from "../pool";
import { likePart } from "../likePart";

export interface RequestListRow {
  number: string;
  title: string;
  process_key: string;
  process_name: string;
  requester_id: string | null;
  /** Who asked, where that is not the account. */
  party: Party | null;
  status: string;
  result: string | null;
  result_tone: string | null;
  /** The stage it stands in; null where its owner grouped no steps. */
  stage: string | null;
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
    const text = f.search.trim();
    const like = bind(likePart(text));
    const digits = /\d{3,}/.exec(text)?.[0];
    // A prefix stands in all numbers of a process, and the index would go through every one of them: where there are
    // digits it is asked for those, and what it finds is held against the whole (which "|| ''" keeps from the index).
    const number = digits
      ? `r.number ilike ${bind(`%${digits}%`)} and r.number || '' ilike ${like}`
      : `r.number ilike ${like}`;
    where.push(`(${number} or r.title ilike ${like})`);
  }
  return where;
}

const orderOf = (f: RequestFilter): string =>
  f.state === "late" ? "r.due_at, r.id" : "r.started_at desc, r.id desc";

/**
 * The requests that are meant, in the order they are listed in: newest first, or past the limit the longest first. An
 * owner's are taken process by process, each by its index, because a list of processes would have everything sorted.
 */
function listed(f: RequestFilter, bind: (v: unknown) => string): string {
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
  if (!owned)
    return `
      select r.*
      from request r
      where ${and(f.process ? [`r.process_key = ${bind(f.process)}`] : [])}
      order by ${order}
    `;
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

/** Which are meant, in no order. */
function meant(f: RequestFilter, bind: (v: unknown) => string): string {
  const where = conditions(f, bind);
  if (f.process) where.push(`r.process_key = ${bind(f.process)}`);
  if (f.owner)
    where.push(
      `exists (select 1 from process_owner o where o.process_key = r.process_key and o.person_id = ${bind(f.owner)})`,
    );
  return `from request r where ${where.join(" and ") || "true"}`;
}

/** How many there are, up to `mostCounted`. */
const counted = (f: RequestFilter, bind: (v: unknown) => string): string =>
  countedSql(meant(f, bind), mostCounted(f.search));

async function count(db: Db, f: RequestFilter): Promise<number> {
  const values: unknown[] = [];
  const sql = counted(f, (v) => `$${values.push(v)}`);
  return (await db.query(sql, values)).rows[0].n;
}

/** What a list shows of the request `r` of the release `l`. */
const SHOWN = `
  r.number,
  r.title,
  r.process_key,
  l.definition ->> 'name' as process_name,
  r.requester_id,
  r.party,
  r.status,
  r.result,
  r.result_tone,
  r.stage,
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
`;

interface Page {
  rows: RequestListRow[];
  total: number;
}

/** One page of requests, and how many there are, counted up to `mostCounted`. */
export async function listRequests(db: Db, f: RequestFilter): Promise<Page> {
  const most = mostCounted(f.search);
  if (f.offset >= most) return { rows: [], total: await count(db, f) };
  if (f.search?.trim()) {
    const few = await fewFound(db, f, most);
    if (few.total <= most) return few;
    // A common word is soon found by going along the order.
    return { rows: (await inOrder(db, f)).rows, total: few.total };
  }
  return inOrder(db, f);
}

/**
 * What a word is found in, by the word's own index; no rows where more are found than are counted. The index is read
 * once: what it finds is counted, and then put in order.
 */
async function fewFound(db: Db, f: RequestFilter, most: number): Promise<Page> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const { rows } = await db.query(
    `
      with
        found as materialized (select r.id ${meant(f, bind)} limit ${most + 1}),
        n as (select count(*)::int as n from found)
      select n.n as total, x.*
      from
        n
        left join lateral (
          select r.id, ${SHOWN}
          from
            (
              select r.*
              from found join request r on r.id = found.id
              where n.n <= ${most}
              order by ${orderOf(f)}
              limit ${bind(f.limit)} offset ${bind(f.offset)}
            ) r
            join process_release l on l.id = r.release_id
        ) x on true
      order by ${orderOf(f).replaceAll("r.", "x.")}
    `,
    values,
  );
  return { rows: rows.filter((r) => r.number !== null), total: rows[0].total };
}

/** A page by going along the order; what is searched for has been counted before. */
async function inOrder(db: Db, f: RequestFilter): Promise<Page> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const searched = Boolean(f.search?.trim());
  const { rows } = await db.query(
    `
      select ${searched ? "null::int" : `(${counted(f, bind)})`} as total, ${SHOWN}
      from
        (${listed(f, bind)} limit ${bind(f.limit)} offset ${bind(f.offset)}) r
        join process_release l on l.id = r.release_id
      order by ${orderOf(f)}
    `,
    values,
  );
  // A page behind the last says nothing of how many there are.
  return { rows, total: rows[0]?.total ?? (searched || f.offset === 0 ? 0 : await count(db, f)) };
}

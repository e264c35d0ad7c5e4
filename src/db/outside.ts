import { at, type Db } from "./pool";

/** Makes the account of somebody outside, for the one request they are about to send; nothing where it is there. */
export const insertVisitor = (db: Db, id: string) =>
  db.query("insert into person (id, name, kind) values ($1, '', 'visitor') on conflict do nothing", [id]);

/** Makes the account of somebody outside whom a request asks; it is there for as long as the request is. */
export const insertAsked = (db: Db, id: string) =>
  db.query(
    "insert into person (id, name, kind, asked) values ($1, '', 'visitor', true) on conflict do nothing",
    [id],
  );

export const insertTrackingLink = (db: Db, l: { hash: Buffer; request: string; now: number }) =>
  db.query("insert into tracking_link (hash, request_id, made_at) values ($1, $2, $3)", [
    l.hash,
    l.request,
    at(l.now),
  ]);

export interface TrackingLinkRow {
  number: string;
  /** Whose own the request is. */
  account: string | null;
  revoked: boolean;
}
export const trackingLinkOf = async (db: Db, hash: Buffer): Promise<TrackingLinkRow | null> =>
  (
    await db.query(
      `
        select r.number, r.requester_id as account, l.revoked_at is not null as revoked
        from tracking_link l join request r on r.id = l.request_id
        where l.hash = $1
      `,
      [hash],
    )
  ).rows[0] ?? null;

/** Makes all links void by which a request is followed; how many were not. */
export const revokeTrackingLinks = async (db: Db, request: string, now: number): Promise<number> =>
  (
    await db.query("update tracking_link set revoked_at = $2 where request_id = $1 and revoked_at is null", [
      request,
      at(now),
    ])
  ).rowCount ?? 0;

/** Keeps the code sent to an address for an account, in the place of one before. */
export const keepCode = (db: Db, c: { account: string; address: string; hash: Buffer; now: number }) =>
  db.query(
    `
      insert into address_code (account, address, code_hash, made_at)
      values ($1, $2, $3, $4)
      on conflict (account) do update
      set address = excluded.address, code_hash = excluded.code_hash, made_at = excluded.made_at, tries = 0
    `,
    [c.account, c.address, c.hash, at(c.now)],
  );

export interface CodeRow {
  address: string;
  code_hash: Buffer;
  made_at: number;
  tries: number;
}
/** The code of an account, with one more try counted: also where what tries it comes to nothing. */
export const tryCode = async (db: Db, account: string): Promise<CodeRow | null> =>
  (
    await db.query(
      "update address_code set tries = tries + 1 where account = $1 returning address, code_hash, made_at, tries",
      [account],
    )
  ).rows[0] ?? null;

/**
 * Takes a place in a bucket that holds so much in so long, by the machine's clock.
 * @returns whether there was room
 */
export async function takeRoom(
  db: Db,
  bucket: string,
  amount: number,
  limit: { most: number; minutes: number },
): Promise<boolean> {
  // One after the other in each bucket: two at once would both find room for one.
  await db.query("select pg_advisory_xact_lock(hashtextextended($1, 11))", [bucket]);
  const { rowCount } = await db.query(
    `
      insert into outside_pace (bucket, amount)
      select $1, $2::bigint
      where
        (
          select coalesce(sum(amount), 0)
          from outside_pace
          where bucket = $1 and at > now() - make_interval(mins => $4)
        ) + $2::bigint <= $3
    `,
    [bucket, amount, limit.most, limit.minutes],
  );
  return rowCount === 1;
}

/** Forgets what counts no more, and the accounts of those who never sent anything, with their files; how many accounts. */
export async function sweepVisitors(db: Db): Promise<number> {
  await db.query("delete from outside_pace where at < now() - interval '1 day'");
  await db.query("delete from address_code where made_at < now() - interval '1 day'");
  await db.query(
    `
      delete from file f using person p
      where
        p.id = f.added_by
        and p.kind = 'visitor'
        and f.request_id is null
        and f.register_key is null
        and f.message_id is null
        and p.since < now() - interval '1 day'
    `,
  );
  const { rowCount } = await db.query(
    `
      delete from person p
      where
        kind = 'visitor'
        and not asked
        and since < now() - interval '1 day'
        and not exists (select from request r where r.requester_id = p.id)
        and not exists (select from file f where f.added_by = p.id)
    `,
  );
  return rowCount ?? 0;
}

/** Whether somebody has ever made the links to a request void. */
export const wasCalledBack = async (db: Db, request: string): Promise<boolean> =>
  ((
    await db.query("select from tracking_link where request_id = $1 and revoked_at is not null limit 1", [
      request,
    ])
  ).rowCount ?? 0) > 0;

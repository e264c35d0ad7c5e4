import { ALL, type MessageRow } from "./messages";
import { at, type Db } from "./pool";

export interface ChatRoomRow {
  name: string;
  address: string;
  /** Sealed. */
  token: Buffer;
  /** Sealed. */
  signing_key: Buffer;
}

export const chatRoom = async (db: Db): Promise<ChatRoomRow | null> =>
  (await db.query("select name, address, token, signing_key from chat_room")).rows[0] ?? null;

export const chatRoomName = async (db: Db): Promise<string | null> =>
  (await db.query("select name from chat_room")).rows[0]?.name ?? null;

export const putChatRoom = (db: Db, r: ChatRoomRow) =>
  db.query(
    `
      insert into chat_room (name, address, token, signing_key)
      values ($1, $2, $3, $4)
      on conflict (one) do update
      set name = excluded.name, address = excluded.address, token = excluded.token, signing_key = excluded.signing_key
    `,
    [r.name, r.address, r.token, r.signing_key],
  );

export const deleteChatRoom = (db: Db) => db.query("delete from chat_room");

export const accountOf = async (db: Db, person: string): Promise<string | null> =>
  (await db.query("select account from chat_account where person_id = $1", [person])).rows[0]?.account ??
  null;

export const personOfAccount = async (db: Db, account: string): Promise<string | null> =>
  (await db.query("select person_id from chat_account where account = $1", [account])).rows[0]?.person_id ??
  null;

/** Ties an account to a person, in a transaction. @returns whether it was nobody else's */
export const tieAccount = async (db: Db, person: string, account: string, now: number): Promise<boolean> => {
  // Two who tie the same one at once would both find it nobody's.
  await db.query("select pg_advisory_xact_lock(hashtextextended($1, 42))", [account]);
  const tied = await db.query(
    `
        insert into chat_account (person_id, account, tied_at)
        select $1, $2, $3
        where
          not exists (
            select
            from chat_account
            where account = $2 and person_id <> $1
          )
        on conflict (person_id) do update
        set account = excluded.account, tied_at = excluded.tied_at
      `,
    [person, account, at(now)],
  );
  return tied.rowCount === 1;
};

export const untieAccount = async (db: Db, person: string): Promise<boolean> =>
  ((await db.query("delete from chat_account where person_id = $1", [person])).rowCount ?? 0) > 0;

export interface ChatCodeRow {
  account: string;
  hash: Buffer;
  tries: number;
  /** How many were asked for, none a day after the one before. */
  asked: number;
  made_at: number;
}
export const putCode = (db: Db, person: string, c: { account: string; hash: Buffer; now: number }) =>
  db.query(
    `
      insert into chat_code (person_id, account, hash, made_at)
      values ($1, $2, $3, $4)
      on conflict (person_id) do update
      set
        account = excluded.account,
        hash = excluded.hash,
        tries = 0,
        made_at = excluded.made_at,
        asked = case
          when excluded.made_at - chat_code.made_at < interval '1 day' then chat_code.asked + 1
          else 1
        end
    `,
    [person, c.account, c.hash, at(c.now)],
  );

/** The code somebody is asked for, with one more try noted, so that none are tried side by side. */
export const tryCode = async (db: Db, person: string): Promise<ChatCodeRow | null> =>
  (
    await db.query(
      "update chat_code set tries = tries + 1 where person_id = $1 returning account, hash, tries, asked, made_at",
      [person],
    )
  ).rows[0] ?? null;

export const codeOf = async (db: Db, person: string): Promise<ChatCodeRow | null> =>
  (
    await db.query("select account, hash, tries, asked, made_at from chat_code where person_id = $1", [
      person,
    ])
  ).rows[0] ?? null;

/** A code that counts no more. How many were asked for stays. */
export const dropCode = (db: Db, person: string) =>
  db.query("update chat_code set hash = '', tries = 1000 where person_id = $1", [person]);

/** The message a chat room knows by an id. */
export const messageInChat = async (db: Db, id: string): Promise<MessageRow | null> =>
  (await db.query(`select ${ALL} from message m where m.channel = 'chat' and m.message_id = $1`, [id]))
    .rows[0] ?? null;

/** Messages that ask somebody about these tasks, as far as they have arrived. */
export const messagesAbout = async (
  db: Db,
  request: string,
  tasks: readonly string[],
): Promise<MessageRow[]> =>
  (
    await db.query(
      `
        select ${ALL}
        from message m
        where
          m.request_id = $1
          and m.channel = 'chat'
          and m.task_id = any($2::text[])
          and m.state = 'sent'
          and m.message_id is not null
        order by m.id
      `,
      [request, tasks],
    )
  ).rows;

/** Has messages about a task shown as what is so. */
export const queueShow = (db: Db, request: string, task: string) =>
  db.query(
    `
      select
        graphile_worker.add_job (
          'show_in_chat',
          json_build_object('request', $1::text, 'tasks', json_build_array($2::text)),
          max_attempts := 25
        )
    `,
    [request, task],
  );

/** Has what was said of a request in the chat room blanked there, where anything was. */
export const queueForget = (db: Db, request: string) =>
  db.query(
    `
      select
        graphile_worker.add_job (
          'forget_in_chat',
          json_build_object('request', $1::text),
          job_key := 'forget:' || $1,
          max_attempts := 25
        )
      where
        exists (
          select
          from message
          where request_id = $1::bigint and channel = 'chat' and message_id is not null
        )
    `,
    [request],
  );

/** The messages of a request that arrived in the chat room, by the ids they have there and here. */
export const postedOf = async (
  db: Db,
  request: string,
): Promise<{ id: string; message: string; shows: string | null }[]> =>
  (
    await db.query(
      `
        select id::text as id, message_id as message, shows
        from message
        where request_id = $1 and channel = 'chat' and message_id is not null
      `,
      [request],
    )
  ).rows;

/** Says what a message shows by now. */
export const noteShows = (db: Db, id: string, shows: string) =>
  db.query("update message set shows = $2 where id = $1", [id, shows]);

/** Says that a room has a message, by the id it knows it by. */
export const notePosted = (db: Db, id: string, message: string, shows: string | null, now: number) =>
  db.query(
    `
      update message
      set state = 'sent', message_id = $2, shows = $3, sent_at = $4, why = null
      where id = $1 and state = 'sending'
    `,
    [id, message, shows, at(now)],
  );

/** Takes a message to be posted. Posting is repeated by the same key, so one that is being sent may be taken again. */
export const takeToPost = async (db: Db, id: string): Promise<boolean> =>
  ((
    await db.query(
      "update message set state = 'sending', tries = tries + 1 where id = $1 and state in ('waiting', 'sending')",
      [id],
    )
  ).rowCount ?? 0) === 1;

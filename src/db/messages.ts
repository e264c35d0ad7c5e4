import type { Receiver } from "@/core/kinds";
import type { WrittenLetter } from "@/core/letter";
import { at, type Db } from "./pool";

export type MessageState =
  "waiting" | "sending" | "given" | "sent" | "perhaps" | "returned" | "stuck" | "kept";

/** To whom a mail did not come, and why. */
export interface Missed {
  email: string;
  why: string;
  /** Whether the request has been told. */
  told?: true;
}
export interface MessageRow {
  id: string;
  request_id: string | null;
  direction: "out" | "in";
  mailbox: string;
  effect: string | null;
  part: number | null;
  step_id: string | null;
  scope: string | null;
  by_person: string | null;
  /** The task it asks somebody to answer, who that is, and the last event it was written after. */
  task_id: string | null;
  person_id: string | null;
  seq: number | null;
  state: MessageState;
  /** Whether it may be sent once more where it cannot be known whether it arrived. */
  again: boolean;
  /** It tells of what is hidden from somebody. */
  hidden: boolean;
  tries: number;
  why: string | null;
  sender: Receiver | null;
  receivers: Receiver[];
  copies: Receiver[];
  blind: Receiver[];
  reply_to: Receiver | null;
  reached: string[];
  missed: Missed[];
  subject: string;
  body: string;
  /** Out: the parts of a letter, of which the body is made. */
  letter: WrittenLetter | null;
  /** What came without what it repeats; null for what went out. */
  said: string | null;
  files: string[];
  message_id: string | null;
  in_reply_to: string | null;
  automatic: string | null;
  /** Whether the receiving server vouched for its sender; null where it said nothing. */
  vouched: boolean | null;
  at: number;
  sent_at: number | null;
  channel: "mail" | "chat";
  /** Of a message in a room: which. */
  room: string | null;
  /** Of a message in chat that asks: "asks", or the words that say why nobody is asked any more. */
  shows: string | null;
}

/** All columns of a mail `m`. */
export const ALL = `
  m.id::text as id,
  m.request_id::text as request_id,
  m.direction,
  m.mailbox,
  m.effect,
  m.part,
  m.step_id,
  m.scope,
  m.by_person,
  m.task_id,
  m.person_id,
  m.seq,
  m.state,
  m.again,
  m.hidden,
  m.tries,
  m.why,
  m.sender,
  m.receivers,
  m.copies,
  m.blind,
  m.reply_to,
  m.reached,
  m.missed,
  m.subject,
  m.body,
  m.letter,
  m.said,
  m.files,
  m.message_id,
  m.in_reply_to,
  m.automatic,
  m.vouched,
  m.at,
  m.sent_at,
  m.channel,
  m.room,
  m.shows
`;

/** A mail as a page of its request shows it, with what came or went along. */
export interface LetterRow extends Omit<MessageRow, "id"> {
  id: string;
  held: { id: string; name: string; size: number; type: string }[];
}
/** The mails of the request `r`, the newest of very many and oldest first, to stand in a statement that reads it. */
export const LETTERS = `
  (
    select coalesce(json_agg(x order by x.at, x.id::bigint), '[]')
    from
      (
        select
          ${ALL.replace("m.at,", "floor(extract(epoch from m.at) * 1000) as at,").replace("m.sent_at", "floor(extract(epoch from m.sent_at) * 1000) as sent_at")},
          (
            select coalesce(json_agg(json_build_object('id', f.id, 'name', f.name, 'size', f.size, 'type', f.media_type)), '[]')
            from file f
            where f.id = any(m.files)
          ) as held
        from message m
        where m.request_id = r.id
        order by m.id desc
        limit 200
      ) x
  )
`;

export const messageById = async (db: Db, id: string, lock: boolean): Promise<MessageRow | null> =>
  (await db.query(`select ${ALL} from message m where m.id = $1 ${lock ? "for update" : ""}`, [id]))
    .rows[0] ?? null;

/** The mails of a request that carry a file. */
export const messagesWithFiles = async (
  db: Db,
  request: string,
  files: readonly string[],
): Promise<MessageRow[]> =>
  (
    await db.query(`select ${ALL} from message m where m.request_id = $1 and m.files && $2::text[]`, [
      request,
      files,
    ])
  ).rows;

/** Mails an effect asked for. */
export const messagesOfEffect = async (db: Db, request: string, effect: string): Promise<MessageRow[]> =>
  (
    await db.query({
      name: "messages-of-effect",
      text: `select ${ALL} from message m where m.request_id = $1 and m.effect = $2 order by m.part`,
      values: [request, effect],
    })
  ).rows;

/**
 * Takes a mail to be sent, where it is in one of these states; nobody else takes it meanwhile.
 * @returns whether it was
 */
export const takeMessage = async (
  db: Db,
  id: string,
  from: readonly MessageState[],
  m: { messageId: string; inReplyTo: string | null; reached: readonly string[] },
): Promise<boolean> =>
  ((
    await db.query(
      `
        update message
        set state = 'sending', tries = tries + 1, message_id = $3, in_reply_to = coalesce($4, in_reply_to), reached = $5, why = null
        where id = $1 and state = any($2::text[])
      `,
      [id, from, m.messageId, m.inReplyTo, m.reached],
    )
  ).rowCount ?? 0) === 1;

/** Says that its text is about to be given to the server: from here on it cannot be known that it did not arrive. */
export const noteGiven = (db: Db, id: string) =>
  db.query("update message set state = 'given' where id = $1 and state = 'sending'", [id]);

/** What came of a mail. @param missed are added to those it did not reach before */
export const noteCame = (
  db: Db,
  id: string,
  came: { state: MessageState; why: string | null; missed: readonly Missed[]; at: number | null },
) =>
  db.query(
    `
      update message
      set state = $2, why = $3, missed = missed || $4::jsonb, sent_at = coalesce($5, sent_at)
      where id = $1
    `,
    [id, came.state, came.why, JSON.stringify(came.missed), at(came.at)],
  );

/** Says that the request has been told whom it did not reach. */
export const noteTold = (db: Db, id: string) =>
  db.query(
    `
      update message
      set missed = (select coalesce(jsonb_agg(x || '{"told": true}'), '[]') from jsonb_array_elements(missed) x)
      where id = $1
    `,
    [id],
  );

/** Has a mail sent after a while; asked for again it is sent then, once. */
export const queueMessage = (db: Db, id: string, afterMs: number) =>
  db.query(
    `
      select
        graphile_worker.add_job (
          'send_message',
          json_build_object('message', $1::text),
          job_key := 'message:' || $1,
          run_at := now() + make_interval(secs => $2::float8 / 1000),
          max_attempts := 25
        )
    `,
    [id, afterMs],
  );

/** Has one sent that is not out, from the beginning; or says that it arrived. @returns whether it was one of these */
export const settle = async (db: Db, id: string, from: readonly MessageState[], to: MessageState) =>
  ((
    await db.query(
      "update message set state = $3, why = null, tries = 0 where id = $1 and direction = 'out' and state = any($2::text[])",
      [id, from, to],
    )
  ).rowCount ?? 0) === 1;

/** The last mail exchanged in a request with somebody: what the next one answers. */
export const lastWith = async (
  db: Db,
  request: string,
  email: string,
  before: string,
): Promise<string | null> =>
  (
    await db.query(
      `
        select message_id
        from message
        where
          request_id = $1
          and message_id is not null
          and id < $3
          and (
            (direction = 'out' and $2 = any(reached))
            or (direction = 'in' and lower(sender ->> 'email') = $2)
          )
        order by id desc
        limit 1
      `,
      [request, email, before],
    )
  ).rows[0]?.message_id ?? null;

/** The mail of ours, or that came, which one of these ids is of; the last named first. */
export const messageNamed = async (
  db: Db,
  mailbox: string,
  ids: readonly string[],
): Promise<MessageRow | null> => {
  if (ids.length === 0) return null;
  const { rows } = await db.query(
    `
      select ${ALL}
      from message m
      where m.message_id = any($1::text[]) and m.mailbox = $2 and m.request_id is not null
      order by array_position($1::text[], m.message_id) desc, m.id desc
      limit 1
    `,
    [ids, mailbox],
  );
  return rows[0] ?? null;
};

/** The last mail to somebody in a request of one of these numbers. */
export const lastSentTo = async (
  db: Db,
  mailbox: string,
  numbers: readonly string[],
  email: string,
): Promise<MessageRow | null> => {
  if (numbers.length === 0) return null;
  const { rows } = await db.query(
    `
      select ${ALL}
      from message m join request r on r.id = m.request_id
      where r.number = any($1::text[]) and m.mailbox = $2 and m.direction = 'out' and $3 = any(m.reached)
      order by m.id desc
      limit 1
    `,
    [numbers, mailbox, email],
  );
  return rows[0] ?? null;
};

/** Says that one did not reach somebody after all. @returns whether that was not known yet */
export const noteReturned = async (db: Db, id: string, email: string, why: string): Promise<boolean> =>
  ((
    await db.query(
      `
        update message
        set
          missed = missed || $2::jsonb,
          why = $3,
          state = case when cardinality(reached) <= jsonb_array_length(missed) + 1 then 'returned' else state end
        where id = $1 and not exists (select from jsonb_array_elements(missed) x where x ->> 'email' = $4)
      `,
      [id, JSON.stringify([{ email, why }]), why, email],
    )
  ).rowCount ?? 0) === 1;

export const noteFiles = (db: Db, id: string, ids: readonly string[]) =>
  db.query("update message set files = $2 where id = $1", [id, ids]);

export interface IncomingRow {
  request: string | null;
  mailbox: string;
  fingerprint: string;
  sender: Receiver | null;
  receivers: readonly Receiver[];
  copies: readonly Receiver[];
  subject: string;
  body: string;
  said: string;
  files: readonly string[];
  messageId: string | null;
  inReplyTo: string | null;
  automatic: string | null;
  vouched: boolean | null;
  hidden: boolean;
  why: string | null;
  at: number;
}
/** Keeps a mail that came; null where it has come before. */
export const insertIncoming = async (db: Db, m: IncomingRow): Promise<string | null> =>
  (
    await db.query(
      `
        insert into
          message (
            request_id,
            direction,
            mailbox,
            state,
            fingerprint,
            sender,
            receivers,
            copies,
            subject,
            body,
            files,
            message_id,
            in_reply_to,
            automatic,
            hidden,
            why,
            at,
            said,
            vouched
          )
        values ($1, 'in', $2, 'kept', $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17)
        on conflict (mailbox, fingerprint) where direction = 'in' do nothing
        returning id::text as id
      `,
      [
        m.request,
        m.mailbox,
        m.fingerprint,
        JSON.stringify(m.sender),
        JSON.stringify(m.receivers),
        JSON.stringify(m.copies),
        m.subject,
        m.body,
        m.files,
        m.messageId,
        m.inReplyTo,
        m.automatic,
        m.hidden,
        m.why,
        at(m.at),
        m.said,
        m.vouched,
      ],
    )
  ).rows[0]?.id ?? null;

/** A mail that came, by what tells it from others. */
export const incomingByFingerprint = async (
  db: Db,
  mailbox: string,
  fingerprint: string,
): Promise<MessageRow | null> =>
  (
    await db.query(
      `select ${ALL} from message m where m.direction = 'in' and m.mailbox = $1 and m.fingerprint = $2`,
      [mailbox, fingerprint],
    )
  ).rows[0] ?? null;

/** Puts a mail of Cobble Step's own into the book, and has it sent. @returns null where it is there already */
export const insertOutgoing = async (
  db: Db,
  m: {
    request: string;
    mailbox: string;
    effect: string;
    receivers: readonly Receiver[];
    subject: string;
    body: string;
    hidden: boolean;
    /** A reply to it answers this task of this person's, as one to the mail before does. */
    about: { task: string; person: string; seq: number | null } | null;
    at: number;
  },
): Promise<string | null> => {
  const { rows } = await db.query(
    `
      insert into
        message (request_id, direction, mailbox, effect, part, state, receivers, subject, body, hidden, at, task_id, person_id, seq)
      values ($1, 'out', $2, $3, 0, 'waiting', $4, $5, $6, $7, $8, $9, $10, $11)
      on conflict do nothing
      returning id::text as id
    `,
    [
      m.request,
      m.mailbox,
      m.effect,
      JSON.stringify(m.receivers),
      m.subject,
      m.body,
      m.hidden,
      at(m.at),
      m.about?.task ?? null,
      m.about?.person ?? null,
      m.about?.seq ?? null,
    ],
  );
  const id: string | null = rows[0]?.id ?? null;
  if (id !== null) await queueMessage(db, id, 0);
  return id;
};

/** Puts a letter written by hand into the book; null where it is there already. @param key the same over every try */
export const insertByHand = async (
  db: Db,
  m: {
    request: string;
    key: string;
    mailbox: string;
    by: string;
    receivers: readonly Receiver[];
    subject: string;
    body: string;
    letter: WrittenLetter;
    files: readonly string[];
    hidden: boolean;
    at: number;
  },
): Promise<string | null> =>
  (
    await db.query(
      `
        insert into
          message (request_id, direction, mailbox, effect, part, by_person, state, receivers, subject, body, letter, hidden, at, files)
        values ($1, 'out', $2, $3, 0, $4, case when $2 = '' then 'kept' else 'waiting' end, $5, $6, $7, $8, $9, $10, $11)
        on conflict do nothing
        returning id::text as id
      `,
      [
        m.request,
        m.mailbox,
        `hand:${m.key}`,
        m.by,
        JSON.stringify(m.receivers),
        m.subject,
        m.body,
        JSON.stringify(m.letter),
        m.hidden,
        at(m.at),
        m.files,
      ],
    )
  ).rows[0]?.id ?? null;

/** A letter written by hand, by its key. */
export const letterByKey = async (db: Db, request: string, key: string): Promise<MessageRow | null> =>
  (await messagesOfEffect(db, request, `hand:${key}`))[0] ?? null;

/** Has it looked what a mail that came starts. */
export const queueMailStart = (db: Db, id: string) =>
  db.query(
    "select graphile_worker.add_job('mail_start', json_build_object('message', $1::text), max_attempts := 25)",
    [id],
  );

/** Mails that people wrote to a mailbox, of requests of a process or of none, the newest. */
export const cameTo = async (db: Db, mailbox: string, process: string, most: number): Promise<MessageRow[]> =>
  (
    await db.query(
      `
        select ${ALL}
        from message m left join request r on r.id = m.request_id
        where
          m.direction = 'in'
          and m.mailbox = $1
          and m.automatic is null
          and (m.request_id is null or r.process_key = $2)
        order by m.id desc
        limit $3
      `,
      [mailbox, process, most],
    )
  ).rows;

/** How many letters of refusal went to an address since a moment. */
export const refusalsTo = async (db: Db, email: string, since: number): Promise<number> =>
  (
    await db.query(
      `
        select count(*)::int as n
        from message
        where
          request_id is null
          and direction = 'out'
          and starts_with(effect, 'refuse:')
          and lower(receivers -> 0 ->> 'email') = lower($1)
          and at > $2
      `,
      [email, at(since)],
    )
  ).rows[0].n;

/** Puts the letter that refuses a mail into the book, once for each mail, and has it sent. @returns whether it is new */
export const insertRefusal = async (
  db: Db,
  r: {
    of: string;
    mailbox: string;
    to: Receiver;
    subject: string;
    body: string;
    answers: string | null;
    at: number;
  },
): Promise<boolean> => {
  const { rows } = await db.query(
    `
      insert into message (direction, mailbox, effect, part, state, receivers, subject, body, in_reply_to, at)
      select 'out', $2, 'refuse:' || $1, 0, 'waiting', $3, $4, $5, $6, $7
      where
        not exists (
          select
          from message
          where request_id is null and direction = 'out' and effect = 'refuse:' || $1
        )
      returning id::text as id
    `,
    [r.of, r.mailbox, JSON.stringify([r.to]), r.subject, r.body, r.answers, at(r.at)],
  );
  if (rows[0]) await queueMessage(db, rows[0].id, 0);
  return rows.length > 0;
};

/** Gives a mail that belonged to none to a request, with what came along. */
export const giveToRequest = async (db: Db, id: string, request: string): Promise<void> => {
  await db.query("update message set request_id = $2, why = null where id = $1", [id, request]);
  await db.query("update file set request_id = $2 where message_id = $1", [id, request]);
};

/** Says why a mail started nothing. */
export const noteNotStarted = (db: Db, id: string, why: string) =>
  db.query("update message set why = $2 where id = $1", [id, why]);

/** Says that a mail needs no request. */
export const settleIncoming = async (db: Db, id: string): Promise<boolean> =>
  ((
    await db.query("update message set settled = true where id = $1 and request_id is null and not settled", [
      id,
    ])
  ).rowCount ?? 0) === 1;

/** Mails that came to one of these mailboxes and belong to no request, the newest. */
export const belongingToNone = async (
  db: Db,
  mailboxes: readonly string[],
  most: number,
): Promise<MessageRow[]> =>
  (
    await db.query(
      `
        select ${ALL}
        from message m
        where m.direction = 'in' and m.request_id is null and not m.settled and m.mailbox = any($1::text[])
        order by m.id desc
        limit $2
      `,
      [mailboxes, most],
    )
  ).rows;

/** How many mails of Cobble Step's own there are in a request of one beginning. */
export const countOf = async (db: Db, request: string, effect: string): Promise<number> =>
  (
    await db.query(
      "select count(*)::int as n from message where request_id = $1 and direction = 'out' and starts_with(effect, $2)",
      [request, effect],
    )
  ).rows[0].n;

/** Mails that are not out after all, of the processes somebody owns, the newest first. */
export const notOut = async (
  db: Db,
  owner: string,
  most: number,
): Promise<
  {
    id: string;
    number: string;
    title: string;
    state: MessageState;
    why: string | null;
    receivers: Receiver[];
    room: string | null;
    subject: string;
    at: number;
  }[]
> =>
  (
    await db.query(
      `
        select m.id::text as id, r.number, r.title, m.state, m.why, m.receivers, m.room, m.subject, m.at
        from message m
        join request r on r.id = m.request_id
        join process_owner o on o.process_key = r.process_key and o.person_id = $1
        where m.direction = 'out' and m.state in ('perhaps', 'stuck')
        order by m.id desc
        limit $2
      `,
      [owner, most],
    )
  ).rows;

/** Blanks what was written to and by people in a request, and takes away what came with it. */
export const forgetMessages = (db: Db, request: string) =>
  db.query(
    `
      with
        gone as (
          delete from file f
          using message m
          where f.message_id = m.id and m.request_id = $1
        )
      update message
      set
        sender = null,
        receivers = '[]',
        copies = '[]',
        blind = '[]',
        reply_to = null,
        reached = '{}',
        missed = '[]',
        subject = '…',
        body = '',
        letter = null,
        said = null,
        why = null,
        room = null,
        shows = null,
        files = '{}'
      where request_id = $1 and (subject <> '…' or body <> '')
    `,
    [request],
  );

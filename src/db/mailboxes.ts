import { at, type Db } from "./pool";

export type MailSecurity = "none" | "starttls" | "tls";
export interface MailboxRow {
  address: string;
  name: string;
  smtp_host: string;
  smtp_port: number;
  /** Null: nothing is read from it. */
  imap_host: string | null;
  imap_port: number | null;
  security: MailSecurity;
  user_name: string;
  /** Sealed. */
  password: Buffer;
  checks_by: string;
  /** People's news goes out from here. */
  news: boolean;
}
/** How far it is read. */
export interface MailboxRead {
  address: string;
  uid_validity: string;
  last_uid: string;
  looked_at: number | null;
  trouble: string | null;
}

export const mailboxNames = async (db: Db): Promise<{ address: string; name: string }[]> =>
  (await db.query("select address, name from mailbox order by address")).rows;

export const allMailboxes = async (db: Db): Promise<MailboxRow[]> =>
  (await db.query("select * from mailbox order by address")).rows;

export const mailboxOf = async (db: Db, address: string): Promise<MailboxRow | null> =>
  (await db.query({ name: "mailbox", text: "select * from mailbox where address = $1", values: [address] }))
    .rows[0] ?? null;

/** News goes out from one mailbox at most: from another than this it does not any more. */
export const newsFromHere = (db: Db, address: string) =>
  db.query("update mailbox set news = false where news and address <> $1", [address]);

export const newsMailbox = async (db: Db): Promise<MailboxRow | null> =>
  (await db.query("select * from mailbox where news")).rows[0] ?? null;

export const putMailbox = (db: Db, m: MailboxRow) =>
  db.query(
    `
      insert into
        mailbox (
          address,
          name,
          smtp_host,
          smtp_port,
          imap_host,
          imap_port,
          security,
          user_name,
          password,
          checks_by,
          news
        )
      values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
      on conflict (address) do update
      set
        name = excluded.name,
        smtp_host = excluded.smtp_host,
        smtp_port = excluded.smtp_port,
        imap_host = excluded.imap_host,
        imap_port = excluded.imap_port,
        security = excluded.security,
        user_name = excluded.user_name,
        password = excluded.password,
        checks_by = excluded.checks_by,
        news = excluded.news
    `,
    [
      m.address,
      m.name,
      m.smtp_host,
      m.smtp_port,
      m.imap_host,
      m.imap_port,
      m.security,
      m.user_name,
      m.password,
      m.checks_by,
      m.news,
    ],
  );

export const deleteMailbox = (db: Db, address: string) =>
  db.query("delete from mailbox where address = $1", [address]);

export const allMailboxReads = async (db: Db): Promise<MailboxRead[]> =>
  (await db.query("select * from mailbox_read")).rows;

export const mailboxRead = async (db: Db, address: string): Promise<MailboxRead | null> =>
  (await db.query("select * from mailbox_read where address = $1", [address])).rows[0] ?? null;

/** Says how far it is read; where the server has numbered its mails anew, from where. */
export const noteMailboxRead = (db: Db, address: string, validity: string, uid: string) =>
  db.query(
    `
      insert into mailbox_read (address, uid_validity, last_uid)
      select $1, $2::bigint, $3::bigint
      where
        exists (
          select
          from mailbox
          where address = $1
        )
      on conflict (address) do update
      set
        uid_validity = excluded.uid_validity,
        last_uid = case
          when mailbox_read.uid_validity = excluded.uid_validity then greatest(mailbox_read.last_uid, excluded.last_uid)
          else excluded.last_uid
        end
    `,
    [address, validity, uid],
  );

/** Says that it was looked into. */
export const noteMailboxLook = (db: Db, address: string, now: number) =>
  db.query("update mailbox_read set looked_at = $2, trouble = null where address = $1", [address, at(now)]);

/** Says why it could not be looked into, also of one that never was. */
export const noteMailboxTrouble = (db: Db, address: string, now: number, trouble: string) =>
  db.query(
    `
      insert into mailbox_read (address, uid_validity, last_uid, looked_at, trouble)
      select $1, 0, 0, $2, $3
      where
        exists (
          select
          from mailbox
          where address = $1
        )
      on conflict (address) do update
      set looked_at = excluded.looked_at, trouble = excluded.trouble
    `,
    [address, at(now), trouble],
  );

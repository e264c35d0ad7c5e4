import { ImapFlow } from "imapflow";
import type { MailServer } from "./server";

/** Larger ones are not fetched: only their beginning. */
export const MOST_BYTES = 30 * 1024 * 1024;
const HEAD_BYTES = 64 * 1024;
/** Even where the server tells of new mail it is looked now and then: a message that gets lost is no reason to wait. */
const LOOK_MS = 60_000;

export interface Fetched {
  validity: string;
  uid: string;
  raw: Buffer;
  /** Only its beginning is here. */
  cut: boolean;
}
export interface Taking {
  /** How far it was read; null where it never was, and then only what comes from now on is taken. */
  from: { validity: string; uid: string } | null;
  /** One after the other, in the order of the mailbox. What it throws ends the watch. */
  take(mail: Fetched): Promise<void>;
  /** From where on is taken, where nothing was read before or the server has begun to number anew. */
  begins(at: { validity: string; uid: string }): Promise<void>;
  /** After each look. */
  looked(): Promise<void>;
  stop: AbortSignal;
}

/**
 * Watches a mailbox until told to stop: what came since it was last read first, then what comes.
 * Where the server numbers its mails anew (another UIDVALIDITY) all are taken again; those known are told by what they say.
 * @throws what the connection broke with; whoever calls begins again
 */
export async function watchMailbox(server: MailServer, t: Taking): Promise<void> {
  const client = new ImapFlow({
    host: server.host,
    port: server.port,
    secure: server.security === "tls",
    ...(server.security === "none" ? { doSTARTTLS: false } : {}),
    ...(server.security === "starttls" ? { doSTARTTLS: true } : {}),
    auth: { user: server.user, pass: server.password },
    logger: false,
    maxIdleTime: LOOK_MS,
    socketTimeout: 5 * LOOK_MS,
  });
  let broke: Error | null = null;
  let wake: () => void = () => undefined;
  client.on("error", (e: Error) => {
    broke = e;
    wake();
  });
  client.on("close", () => {
    broke ??= new Error("The connection was closed");
    wake();
  });
  /** Something came while nobody waited for it. */
  let more = false;
  client.on("exists", () => {
    more = true;
    wake();
  });
  const stop = () => wake();
  t.stop.addEventListener("abort", stop);
  try {
    await client.connect();
    await client.mailboxOpen("INBOX");
    const box = client.mailbox;
    if (!box) throw new Error("There is no inbox");
    const validity = String(box.uidValidity);
    let last = t.from?.validity === validity ? BigInt(t.from.uid) : 0n;
    if (t.from === null) last = BigInt(box.uidNext) - 1n;
    if (t.from?.validity !== validity) await t.begins({ validity, uid: String(last) });
    while (!t.stop.aborted) {
      more = false;
      last = await takeNew(client, validity, last, t);
      await t.looked();
      if (t.stop.aborted || broke) break;
      if (more) continue;
      // Waits in IDLE, which ends when something comes, and is begun anew each minute.
      await new Promise<void>((resolve) => {
        wake = resolve;
        client.idle().then(() => resolve(), resolve);
      });
      wake = () => undefined;
    }
    if (broke && !t.stop.aborted) throw broke;
  } finally {
    t.stop.removeEventListener("abort", stop);
    client.close();
  }
}

/** @returns the number of the last that was taken */
async function takeNew(client: ImapFlow, validity: string, last: bigint, t: Taking): Promise<bigint> {
  const found = await client.search({ uid: `${last + 1n}:*` }, { uid: true });
  // "n:*" names the last mail even where its number is smaller.
  const uids = (found || []).filter((u) => BigInt(u) > last).sort((a, b) => a - b);
  let taken = last;
  for (const uid of uids) {
    if (t.stop.aborted) break;
    const mail = await client.fetchOne(String(uid), { size: true }, { uid: true });
    if (!mail) continue;
    const cut = (mail.size ?? 0) > MOST_BYTES;
    const whole = await client.fetchOne(
      String(uid),
      { source: cut ? { maxLength: HEAD_BYTES } : true },
      { uid: true },
    );
    if (!whole || !whole.source) continue;
    await t.take({ validity, uid: String(uid), raw: whole.source, cut });
    taken = BigInt(uid);
  }
  return taken;
}

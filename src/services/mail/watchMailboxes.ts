import { getPool, mailboxes, openHolder, type Holder, type MailboxRow } from "@/db";
import { watchMailbox } from "@/outside/mail";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { SYSTEM } from "../kernel/actor";
import { readingServer } from "./mailbox";
import { takeMail } from "./takeMail";

/** How often it is looked which mailboxes there are, and whether whoever watched one is gone. */
const LOOK_MS = 5_000;

/**
 * Watches all mailboxes, each by one worker of all there are, until told to stop. A mailbox is held by the connection to
 * the database: it is free for another worker the moment whoever watched it dies.
 * @param say is told what goes wrong
 */
export const watchMailboxes = defineView(
  ["run jobs"],
  async (c, stop: AbortSignal, say: (line: string) => void): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    while (!stop.aborted) {
      const holder = await openHolder().catch(() => null);
      if (holder) await watchAll(holder, stop, say).finally(() => holder.close());
      await pause(LOOK_MS, stop);
    }
  },
);

/** Watches those nobody else does, until told to stop or the connection that holds them is lost. */
async function watchAll(holder: Holder, stop: AbortSignal, say: (line: string) => void): Promise<void> {
  const over = AbortSignal.any([stop, holder.lost]);
  const watching = new Map<string, { as: string; end: AbortController; done: Promise<unknown> }>();
  while (!over.aborted) {
    const boxes = await mailboxes.allMailboxes(getPool()).catch(() => null);
    for (const [address, w] of watching) {
      // Changed or removed: it is begun anew as it is now.
      const box = boxes?.find((b) => b.address === address);
      if (boxes && (!box || sameBox(box) !== w.as)) w.end.abort();
    }
    for (const box of boxes ?? []) {
      const name = `mailbox ${box.address}`;
      if (watching.has(box.address) || box.imap_host === null) continue;
      if (!(await holder.hold(name).catch(() => false))) continue;
      const end = new AbortController();
      const done = watch(box, end.signal, say)
        .catch((e: Error) => say(`mailbox ${box.address}: ${e.message}`))
        .finally(async () => {
          await holder.free(name);
          watching.delete(box.address);
        });
      watching.set(box.address, { as: sameBox(box), end, done });
    }
    await pause(LOOK_MS, over);
  }
  const left = [...watching.values()];
  for (const w of left) w.end.abort();
  await Promise.all(left.map((w) => w.done));
}

const sameBox = (b: MailboxRow): string => JSON.stringify({ ...b, password: b.password.toString("base64") });

async function watch(box: MailboxRow, stop: AbortSignal, say: (line: string) => void): Promise<void> {
  const db = getPool();
  const server = readingServer(box);
  const { address } = box;
  const trouble = async (why: string) => {
    await mailboxes.noteMailboxTrouble(db, address, await nowMs(db), why);
    say(`mailbox ${address}: ${why}`);
    await pause(LOOK_MS, stop);
  };
  if (server === null) return;
  if (typeof server === "string") return trouble(server);
  const read = await mailboxes.mailboxRead(db, address);
  // A row without a number is one that could never be read yet.
  const from = read && read.uid_validity !== "0" ? { validity: read.uid_validity, uid: read.last_uid } : null;
  try {
    await watchMailbox(server, {
      from,
      begins: async ({ validity, uid }) => void (await mailboxes.noteMailboxRead(db, address, validity, uid)),
      take: (mail) => takeMail(SYSTEM, address, mail),
      looked: async () => void (await mailboxes.noteMailboxLook(db, address, await nowMs(db))),
      stop,
    });
  } catch (e) {
    await trouble((e as Error).message);
  }
}

const pause = (ms: number, stop: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    if (stop.aborted) return resolve();
    const timer = setTimeout(end, ms);
    function end() {
      clearTimeout(timer);
      stop.removeEventListener("abort", end);
      resolve();
    }
    stop.addEventListener("abort", end);
  });

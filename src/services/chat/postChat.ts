import { chat, getPool, inTransaction, messages, type Db, type MessageRow } from "@/db";
import { postMessage, replaceMessage, type ChatMessage, type ChatTo, type Posted } from "@/outside/chat";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { askedAt, type Asked } from "../mail/asked";
import { deskAddress } from "../mail/ownAddress";
import { chatKeyOf, messageKey } from "../mail/messageIds";
import { timeIn } from "../requests/requestView";
import { askMessage, OVER, showsNow, tellMessage } from "./askMessage";
import { chatServer } from "./chatServer";

/** How long it is waited after each try that came to nothing, in seconds; then somebody has to look at it. */
const WAITS = [5, 30, 120, 600, 1800, 3600, 3 * 3600, 6 * 3600, 12 * 3600];

/**
 * Posts one message. A room knows it by a key of ours, so that posting it again after a lost answer leaves it one message;
 * that is why, unlike a mail, one that was cut off in the middle is simply posted once more.
 */
export async function postChat(m: MessageRow): Promise<void> {
  const db = getPool();
  const stop = (state: "stuck" | "returned", why: string, missed: { email: string; why: string }[] = []) =>
    messages.noteCame(db, m.id, { state, why, missed, at: null });
  const server = await chatServer(db);
  if (typeof server === "string") return void (await stop("stuck", server));
  const to = await receiverOf(db, m, server.name);
  if ("why" in to) return void (await stop("returned", to.why, to.missed));
  const asks = m.task_id !== null && m.person_id !== null;
  const asked = asks ? await askedOf(db, m) : null;
  // Answered meanwhile, or with somebody else: nobody is asked any more. One whose answer was lost may stand there all
  // the same: it is posted once more, which leaves it one message, to be known by its id and shown as what is so.
  if (asks && !asked?.open && m.tries === 0)
    return void (await stop("returned", "It was not sent: nobody waits for this answer any more."));
  if (!(await chat.takeToPost(db, m.id))) return;
  const message = asks ? await messageFor(db, m, asked) : tellMessage(m.subject, m.body);
  const came = await postMessage(server, to, chatKeyOf(await messageKey(db), m.id), message);
  switch (came.came) {
    case "posted":
      // What stands there may be what was posted before; and it may have been answered while this was on its way, when
      // there was nothing to be replaced yet. So it is looked at once more, by a job that comes with the note.
      await inTransaction(async (client) => {
        const shows = asked && m.tries === 0 ? showsNow(asked) : null;
        await chat.notePosted(client, m.id, came.id, shows, await nowMs(client));
        if (asks) await chat.queueShow(client, m.request_id!, m.task_id!);
      });
      return;
    case "refused":
      return void (await (came.whose === "receiver"
        ? stop("returned", came.why, [{ email: nameOf(to), why: came.why }])
        : stop("stuck", came.why)));
    case "later": {
      const wait = WAITS[m.tries];
      await messages.noteCame(db, m.id, {
        state: wait === undefined ? "stuck" : "waiting",
        why: came.why,
        missed: [],
        at: null,
      });
      if (wait !== undefined) await messages.queueMessage(db, m.id, wait * 1000);
    }
  }
}

/** Messages show what is so by now: who has answered, or that they are asked again. */
export const showInChat = defineView(
  ["run jobs"],
  async (c, request: string, tasks: readonly string[]): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    const db = getPool();
    for (const m of await chat.messagesAbout(db, request, tasks)) await showMessage(db, m.id);
  },
);

/** @throws where the room cannot be reached: the job is tried again */
async function showMessage(db: Db, id: string): Promise<void> {
  const m = await messages.messageById(db, id, false);
  if (!m || m.state !== "sent" || m.message_id === null) return;
  const asked = await askedOf(db, m);
  const now = showsNow(asked);
  if (m.shows === now) return;
  const server = await chatServer(db);
  if (typeof server === "string") throw new Error(server);
  const message = await messageFor(db, m, asked);
  const came = await replaceMessage(server, m.message_id, message);
  mustBeShown(came);
  await chat.noteShows(db, id, now);
  // Somebody may have answered while it was on its way: then what was shown last is not what is so.
  if (showsNow(await askedOf(db, m)) !== now) await showMessage(db, id);
}

/**
 * What the room does not have any more needs nothing shown. One that is away, or does not let us in, has not done it.
 * @throws then, so that the job is tried again, and stands among those that gave up in the end
 */
function mustBeShown(came: Posted): void {
  if (came.came === "later" || (came.came === "refused" && came.whose === "server"))
    throw new Error(came.why);
}

const FORGOTTEN = "What stood here was blanked.";

/** Blanks what was said of a request in the chat room, because it is blanked here. @throws to be tried again */
export const forgetInChat = defineView(["run jobs"], async (c, request: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  const db = getPool();
  const left = (await chat.postedOf(db, request)).filter((m) => m.shows !== FORGOTTEN);
  if (left.length === 0) return;
  const server = await chatServer(db);
  if (typeof server === "string") throw new Error(server);
  for (const m of left) {
    const blank = { ...tellMessage("…", ""), over: FORGOTTEN };
    const came = await replaceMessage(server, m.message, blank);
    mustBeShown(came);
    await chat.noteShows(db, m.id, FORGOTTEN);
  }
});

const askedOf = (db: Db, m: MessageRow): Promise<Asked | null> =>
  m.request_id === null || m.task_id === null || m.person_id === null
    ? Promise.resolve(null)
    : askedAt(db, m.request_id, m.task_id, m.person_id);

/** What a message says to its reader as things stand. */
export async function messageFor(db: Db, m: MessageRow, asked: Asked | null): Promise<ChatMessage> {
  if (!asked) return { ...tellMessage(m.subject, m.body), over: OVER };
  const d = await loadDirectory(db);
  return askMessage(asked, {
    said: { subject: m.subject, text: m.body },
    desk: deskAddress(asked.number, m.task_id ?? ""),
    time: timeIn(d.people.get(m.person_id ?? "")?.zone ?? "UTC"),
  });
}

async function receiverOf(
  db: Db,
  m: MessageRow,
  room: string,
): Promise<ChatTo | { why: string; missed: { email: string; why: string }[] }> {
  if (m.room !== null) return { room: m.room };
  const [to] = m.receivers;
  const d = await loadDirectory(db);
  const person = to && "person" in to ? d.people.get(to.person) : undefined;
  if (!person?.active) {
    const why = `${person?.name ?? "Whoever it goes to"} is not here any more.`;
    return { why, missed: [{ email: person?.name ?? "", why }] };
  }
  const account = await chat.accountOf(db, person.id);
  if (account !== null) return { account };
  const why = `${person.name} has not tied an account of ${room} yet.`;
  // Where they have a mail as well, they are asked all the same.
  const mailed = await messages.messagesOfEffect(db, m.request_id ?? "", m.effect ?? "");
  return { why, missed: mailed.some((x) => x.channel === "mail") ? [] : [{ email: person.name, why }] };
}

const nameOf = (to: ChatTo): string => ("room" in to ? `the room ${to.room}` : to.account);

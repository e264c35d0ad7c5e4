import { quietUntil } from "@/core/calendar";
import { letterPage, partsOfText } from "@/core/letter";
import { chat, getPool, holding, mailboxes, notices, type Db } from "@/db";
import { postMessage } from "@/outside/chat";
import { sendMail } from "@/outside/mail";
import { chatServer } from "../chat/chatServer";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { addressMistake } from "../mail/addressMistake";
import { sendingServer } from "../mail/mailbox";
import { chatKeyOf, messageIdOf, messageKey } from "../mail/messageIds";
import { ownAddress } from "../mail/ownAddress";
import { hrefOf, noticeText } from "./notices";

/** How long it is waited after each try that came to nothing, in seconds; then it is let be: it stands on the screen. */
const WAITS = [30, 300, 1800, 7200];

/** How news reads. */
interface Said {
  subject: string;
  text: string;
  link: { label: string; address: string } | null;
}
type Came = { state: "sent" } | { state: "left"; why: string } | { later: string };

/**
 * Sends news by a way beside the screen, once; after its reader's quiet hours, where it is quiet. What was read meanwhile,
 * or is done, is not sent any more.
 */
export const sendNews = defineView(
  ["run jobs"],
  async (c, notice: string, way: notices.NewsWay): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    // Whoever holds it sends it; should they die, the job comes again.
    if (!(await holding(`news ${notice} ${way}`, () => sendHeld(notice, way))))
      await notices.queueNews(getPool(), notice, way, new Date(Date.now() + WAITS[0]! * 1000));
  },
);

async function sendHeld(notice: string, way: notices.NewsWay): Promise<void> {
  const db = getPool();
  const n = await notices.newsToSend(db, notice, way);
  if (n?.state === "given")
    return void (await notices.noteNews(db, notice, way, {
      state: "left",
      why: "It may have arrived: whoever sent it was ended before the server's word came.",
    }));
  if (n?.state !== "waiting") return;
  const d = await loadDirectory(db);
  const person = d.people.get(n.person_id);
  const leave = (why: string) => notices.noteNews(db, notice, way, { state: "left", why });
  if (!person?.active) return void (await leave("Its reader is not here any more."));
  if (n.read) return void (await leave("It was read on the screen, or is done."));
  if (n.asked) return void (await leave("They were asked by this way already."));
  const now = await nowMs(db);
  const quiet = n.quiet_from !== null && { from: n.quiet_from, until: n.quiet_until! };
  const until = quiet ? quietUntil(quiet, now, person.zone) : null;
  if (until !== null)
    return void (await notices.queueNews(db, notice, way, new Date(Date.now() + until - now)));
  const href = hrefOf(n);
  const text = noticeText(n, d, person.zone);
  const head = n.number === null ? "" : `${n.number}: `;
  const said: Said = {
    // What a process tells says itself what it is about.
    subject: n.kind === "told" ? n.subject : `${head}${text}`,
    text: [n.kind === "told" ? "" : (n.title ?? ""), n.body].filter((t) => t.trim() !== "").join("\n\n"),
    link: href === null ? null : { label: "Open it", address: `${ownAddress()}${href}` },
  };
  const came = way === "mail" ? await byMail(db, n, person, said) : await byChat(db, n, said);
  if (!("later" in came)) return void (await notices.noteNews(db, notice, way, came));
  const wait = WAITS[n.tries];
  if (wait === undefined) return void (await leave(came.later));
  await notices.noteNews(db, notice, way, { state: "waiting", why: came.later, tried: true });
  await notices.queueNews(db, notice, way, new Date(Date.now() + wait * 1000));
}

async function byMail(
  db: Db,
  n: notices.NewsToSend,
  person: { name: string; email: string },
  said: Said,
): Promise<Came> {
  const box = await mailboxes.newsMailbox(db);
  if (!box) return { state: "left", why: "No mailbox is set up for news." };
  const server = sendingServer(box);
  if (typeof server === "string") return { state: "left", why: server };
  const mistake = addressMistake(person.email);
  if (mistake) return { state: "left", why: mistake };
  const foot = `You get this because you have chosen so: ${ownAddress()}/you#news`;
  const text = [said.text, said.link ? `${said.link.label}: ${said.link.address}` : "", foot]
    .filter((t) => t !== "")
    .join("\n\n");
  const came = await sendMail(
    server,
    {
      from: { name: box.name, email: box.address },
      to: [{ name: person.name, email: person.email }],
      copies: [],
      blind: [],
      replyTo: null,
      subject: said.subject.trim() || "News",
      text,
      html: letterPage({ language: "", parts: partsOfText(text) }),
      messageId: messageIdOf(await messageKey(db), box.address, "", `news:${n.id}`, 0),
      inReplyTo: null,
      references: [],
      files: [],
    },
    async () => void (await notices.noteNews(db, n.id, "mail", { state: "given" })),
  );
  switch (came.came) {
    case "sent":
      return { state: "sent" };
    case "refused":
      return { state: "left", why: came.missed[0]?.why ?? "It was refused." };
    case "perhaps":
      return { state: "left", why: came.why };
    case "later":
      return { later: came.why };
  }
}

async function byChat(db: Db, n: notices.NewsToSend, said: Said): Promise<Came> {
  const server = await chatServer(db);
  if (typeof server === "string") return { state: "left", why: server };
  const account = await chat.accountOf(db, n.person_id);
  if (account === null) return { state: "left", why: "They have tied no account any more." };
  const key = chatKeyOf(await messageKey(db), `news ${n.id}`);
  const came = await postMessage(server, { account }, key, {
    heading: said.subject,
    text: said.text,
    facts: [],
    answers: [],
    fills: [],
    link: said.link,
    over: null,
  });
  switch (came.came) {
    case "posted":
      return { state: "sent" };
    case "refused":
      return { state: "left", why: came.why };
    case "later":
      return { later: came.why };
  }
}

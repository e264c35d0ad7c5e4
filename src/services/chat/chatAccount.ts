import { createHash, randomInt, timingSafeEqual } from "node:crypto";
import { chat, getPool, inTransaction } from "@/db";
import { postMessage } from "@/outside/chat";
import { nowMs } from "../kernel/clock";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { chatServer } from "./chatServer";

const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });
const MOST_TRIES = 5;
const MOST_MINUTES = 15;
/** Between two codes, twice as long each time, so that nobody floods an account from here, or guesses a code of it. */
const PAUSE_SECONDS = 20;
const LONGEST_PAUSE_SECONDS = 3600;
const pauseAfter = (asked: number): number =>
  Math.min(LONGEST_PAUSE_SECONDS, PAUSE_SECONDS * 2 ** Math.min(asked - 1, 20));
const ACCOUNT = /^[^\s\p{C}]{1,120}$/u;

const digest = (person: string, account: string, code: string): Buffer =>
  createHash("sha256")
    .update(JSON.stringify([person, account, code]))
    .digest();

export interface ChatAccountShown {
  /** What the chat room is called; null where there is none. */
  room: string | null;
  account: string | null;
  /** To which a code was sent that is still to be said. */
  asked: string | null;
}
const own = (c: Call) =>
  c.must({ action: "use own", person: c.actor.id }, { code: "not-allowed", data: { action: "do this" } });

/** By which account somebody is known in chat. */
export const chatAccount = defineUseCase(["use own"], async (c): Promise<ChatAccountShown> => {
  own(c);
  const db = getPool();
  const [room, account, code] = [
    await chat.chatRoomName(db),
    await chat.accountOf(db, c.actor.id),
    await chat.codeOf(db, c.actor.id),
  ];
  const fresh = code && (await nowMs(db)) - code.made_at <= MOST_MINUTES * 60_000 && code.tries < MOST_TRIES;
  return { room, account, asked: fresh ? code.account : null };
});

/** Sends a code to an account, for whoever reads it to say here: so nobody ties an account that is not theirs. */
export const askChatCode = defineUseCase(["use own"], async (c, said: string): Promise<null> => {
  own(c);
  const account = said.trim().replace(/^@/, "");
  if (!ACCOUNT.test(account))
    throw wrong("account", "Say how the chat knows you, as one word, for example: orla.fennimore.");
  const db = getPool();
  const server = await chatServer(db);
  if (typeof server === "string") throw wrong("account", server);
  const now = await nowMs(db);
  const last = await chat.codeOf(db, c.actor.id);
  const pause = last ? pauseAfter(last.asked) - Math.floor((now - last.made_at) / 1000) : 0;
  if (pause > 0)
    throw wrong(
      "account",
      `A code was sent just now. Ask for another in ${pause < 120 ? `${pause} seconds` : `${Math.ceil(pause / 60)} minutes`}.`,
    );
  const code = String(randomInt(1_000_000)).padStart(6, "0");
  const came = await postMessage(server, { account }, `code:${c.actor.id}:${now}`, {
    heading: `${code} is your code`,
    text: `${c.actor.name} wants to be asked and told here by Cobble Step. If that is you, write this code there within ${MOST_MINUTES} minutes. If it is not, do nothing.`,
    facts: [],
    answers: [],
    fills: [],
    link: null,
    over: null,
  });
  if (came.came !== "posted") throw wrong("account", came.why);
  await chat.putCode(db, c.actor.id, { account, hash: digest(c.actor.id, account, code), now });
  return null;
});

/** Ties the account that somebody has shown to be theirs. */
export const tieChatAccount = defineUseCase(
  ["use own"],
  async (c, said: string): Promise<{ account: string }> => {
    own(c);
    const code = said.replace(/\s/g, "");
    const tried = await chat.tryCode(getPool(), c.actor.id);
    const now = await nowMs(getPool());
    if (!tried || now - tried.made_at > MOST_MINUTES * 60_000 || tried.tries > MOST_TRIES)
      throw wrong("code", "That code does not count any more. Ask for another.");
    if (!timingSafeEqual(digest(c.actor.id, tried.account, code), tried.hash))
      throw wrong("code", "That is not the code that was sent. It has six digits.");
    await inTransaction(async (db) => {
      if (!(await chat.tieAccount(db, c.actor.id, tried.account, now)))
        throw wrong("code", `${tried.account} is tied to somebody else here.`);
      await chat.dropCode(db, c.actor.id);
    });
    return { account: tried.account };
  },
);

/** Nobody is asked or told in chat any more by that account. */
export const untieChatAccount = defineUseCase(["use own"], async (c): Promise<null> => {
  own(c);
  await chat.untieAccount(getPool(), c.actor.id);
  await chat.dropCode(getPool(), c.actor.id);
  return null;
});

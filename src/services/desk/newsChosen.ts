import type { NewsKind } from "@/core/engine";
import { NEWS_KINDS } from "@/core/words";
import { chat, getPool, mailboxes, notices } from "@/db";
import { personName } from "../kernel/directory";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";

export interface NewsChosen {
  kinds: {
    kind: NewsKind | "told";
    says: string;
    /** Null where nothing is to be chosen: it comes in any case. */
    screen: boolean | null;
    mail: boolean;
    chat: boolean;
  }[];
  /** By one's own clock. */
  quiet: { from: string; until: string } | null;
  /** By which address, and account; or why not. */
  mail: { to: string } | { why: string };
  chat: { to: string } | { why: string } | null;
}

/** What a process leaves to each of those told. */
const TOLD = "A process tells me something, and leaves the way to me";

const own = (c: Call) =>
  c.must({ action: "use own", person: c.actor.id }, { code: "not-allowed", data: { action: "do this" } });

/** By which ways somebody is told of what, and when not. */
export const newsChosen = defineUseCase(["use own"], async (c): Promise<NewsChosen> => {
  own(c);
  const db = getPool();
  const { off, ways, quiet } = await notices.newsChosen(db, c.actor.id);
  const has = (kind: string, way: notices.NewsWay) => ways.some((w) => w.kind === kind && w.way === way);
  const d = await c.directory();
  const email = d.people.get(c.actor.id)?.email ?? "";
  const room = await chat.chatRoomName(db);
  const account = await chat.accountOf(db, c.actor.id);
  const kinds = Object.keys(NEWS_KINDS) as NewsKind[];
  return {
    kinds: [
      ...kinds.map((kind) => ({
        kind,
        says: NEWS_KINDS[kind],
        screen: !off.includes(kind),
        mail: has(kind, "mail"),
        chat: has(kind, "chat"),
      })),
      { kind: "told", says: TOLD, screen: null, mail: has("told", "mail"), chat: has("told", "chat") },
    ],
    quiet,
    mail: await mailTo(email),
    chat: room === null ? null : chatTo(room, account),
  };

  async function mailTo(address: string): Promise<NewsChosen["mail"]> {
    if (!(await mailboxes.newsMailbox(db)))
      return {
        why: "No mailbox is set up for news yet; whoever has the rights of the office can choose one.",
      };
    return address === ""
      ? { why: `The office knows no address of ${personName(d, c.actor.id)}.` }
      : { to: address };
  }
});

const chatTo = (room: string, account: string | null): NewsChosen["chat"] =>
  account === null ? { why: `Tie your account of ${room} first, above.` } : { to: account };

/** Chooses whether news of a kind comes by a way. What is not wanted on the screen comes by no other way either. */
export const chooseNews = defineUseCase(
  ["use own"],
  async (c, kind: string, way: "screen" | notices.NewsWay, wanted: boolean): Promise<null> => {
    own(c);
    if (kind !== "told" && !Object.hasOwn(NEWS_KINDS, kind))
      throw new Failed({ code: "not-found", data: { what: "kind of news", id: kind } });
    const db = getPool();
    if (way !== "screen") await notices.setNewsWay(db, c.actor.id, kind as NewsKind | "told", way, wanted);
    else if (kind !== "told") await notices.setNewsOff(db, c.actor.id, kind as NewsKind, !wanted);
    return null;
  },
);

const TIME = /^([01]\d|2[0-3]):[0-5]\d$/;

/** Sets the hours in which nothing is sent; on the screen notices come all the same. @param hours null for none */
export const chooseQuietHours = defineUseCase(
  ["use own"],
  async (c, hours: { from: string; until: string } | null): Promise<null> => {
    own(c);
    const wrong = (message: string) =>
      new Failed({ code: "invalid", data: { path: "Quiet hours", message } });
    if (hours && !(TIME.test(hours.from) && TIME.test(hours.until)))
      throw wrong("Quiet hours are two times of the day, for example 19:00 and 07:30.");
    if (hours && hours.from === hours.until)
      throw wrong(`From ${hours.from} until ${hours.until} is no time at all; choose two different ones.`);
    await notices.setQuietTime(getPool(), c.actor.id, hours);
    return null;
  },
);

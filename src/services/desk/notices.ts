import type { NewsFacts, NewsKind } from "@/core/engine";
import { NEWS_KINDS, newsLine } from "@/core/words";
import { getPool, notices } from "@/db";
import { nowMs } from "../kernel/clock";
import { personName } from "../kernel/directory";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { timeIn } from "../requests/requestView";

/** Notices shown at once, and new ones counted: beyond it says "99+". */
const SHOWN = 50;
const MOST_UNREAD = 100;

/** Everything here is somebody's own; the policy is asked all the same. */
const own = (c: Call) => c.may({ action: "use own", person: c.actor.id });

export interface Badges {
  desk: number;
  unread: number;
  /** Whether they own a process. */
  owns: boolean;
}
/** What the frame around every page shows of its person: in one statement, because every page asks. */
export const badges = defineView(["use own"], async (c): Promise<Badges> =>
  own(c) ? notices.badgesOf(getPool(), c.actor.id, MOST_UNREAD) : { desk: 0, unread: 0, owns: false },
);

export interface Notice {
  id: string;
  text: string;
  body: string;
  number: string | null;
  title: string | null;
  /** Where it leads: to the task while it waits for its reader, else to the request if they may see it. */
  href: string | null;
  at: number;
  read: boolean;
}

/** The newest notices of a person, as sentences. */
export const noticesOf = defineView(["use own"], async (c): Promise<Notice[]> => {
  if (!own(c)) return [];
  const db = getPool();
  const d = await c.directory();
  const names = { person: (id: string) => personName(d, id), time: timeIn(c.actor.zone) };
  return (await notices.noticesOf(db, c.actor.id, SHOWN)).map((n) => ({
    id: n.id,
    text: n.kind === "told" ? n.subject : newsLine(n.kind, n.facts as NewsFacts[NewsKind], names),
    body: n.body,
    number: n.number,
    // What a process tells says itself what it is about.
    title: n.kind === "told" ? null : n.title,
    href: hrefOf(n),
    at: n.created_at,
    read: n.read,
  }));
});

function hrefOf(n: notices.NoticeRow): string | null {
  if (n.register_key !== null) return `/registers/${n.register_key}/${n.record_id}`;
  if (n.number === null || n.title === null) return null;
  return n.open_task === null ? `/requests/${n.number}` : `/desk/${n.number}/${n.open_task}`;
}

export const readNotices = defineView(["use own"], async (c, upTo: string): Promise<void> => {
  const db = getPool();
  if (own(c)) await notices.markRead(db, c.actor.id, upTo, await nowMs(db));
});

/** The kinds of news there are, and whether somebody has them. */
export const newsWanted = defineView(
  ["use own"],
  async (c): Promise<{ kind: NewsKind; says: string; wanted: boolean }[]> => {
    if (!own(c)) return [];
    const off = new Set(await notices.newsOff(getPool(), c.actor.id));
    return (Object.keys(NEWS_KINDS) as NewsKind[]).map((kind) => ({
      kind,
      says: NEWS_KINDS[kind],
      wanted: !off.has(kind),
    }));
  },
);

export const wantNews = defineUseCase(
  ["use own"],
  async (c, kind: string, wanted: boolean): Promise<void> => {
    if (!Object.hasOwn(NEWS_KINDS, kind))
      throw new Failed({ code: "not-found", data: { what: "kind of news", id: kind } });
    if (own(c)) await notices.setNewsOff(getPool(), c.actor.id, kind as NewsKind, !wanted);
  },
);

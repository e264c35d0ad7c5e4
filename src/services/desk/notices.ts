import type { NewsFacts, NewsKind } from "@/core/engine";
import { newsLine } from "@/core/words";
import { getPool, notices } from "@/db";
import { nowMs } from "../kernel/clock";
import { personName, type Directory } from "../kernel/directory";
import { defineView, type Call } from "../kernel/defineUseCase";
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
  return (await notices.noticesOf(db, c.actor.id, SHOWN)).map((n): Notice => {
    const { id, created_at: at, read } = n;
    if (n.reminders > 1)
      return { id, ...remindersText(n), number: null, title: null, href: "/desk", at, read };
    return {
      id,
      text: noticeText(n, d, c.actor.zone),
      body: n.body,
      number: n.number,
      // What a process tells says itself what it is about.
      title: n.kind === "told" ? null : n.title,
      href: hrefOf(n),
      at,
      read,
    };
  });
});

/** One notice for several reminders of the same minute. */
function remindersText({ reminders, reminds_of }: notices.ListedNotice): Pick<Notice, "text" | "body"> {
  const named = [...new Set(reminds_of)];
  const more = reminders > reminds_of.length ? ` and ${reminders - reminds_of.length} more` : "";
  return { text: `Reminder: ${reminders} answers are waited for`, body: named.join(", ") + more };
}

/** A notice as a sentence. @param zone of its reader */
export function noticeText(n: notices.NoticeRow, d: Directory, zone: string): string {
  const names = { person: (id: string) => personName(d, id), time: timeIn(zone) };
  return n.kind === "told" ? n.subject : newsLine(n.kind, n.facts as NewsFacts[NewsKind], names);
}

/** Where a notice leads to; null where its reader may not go there. */
export function hrefOf(n: notices.NoticeRow): string | null {
  if (n.register_key !== null) return `/registers/${n.register_key}/${n.record_id}`;
  if (n.number === null || n.title === null) return null;
  return n.open_task === null ? `/requests/${n.number}` : `/desk/${n.number}/${n.open_task}`;
}

export const readNotices = defineView(["use own"], async (c, upTo: string): Promise<void> => {
  const db = getPool();
  if (own(c)) await notices.markRead(db, c.actor.id, upTo, await nowMs(db));
});

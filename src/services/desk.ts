import {
  at,
  getPool,
  notices,
  requests,
  type NoticeRow,
  type RequestFilter,
  type RequestListRow,
  type TaskListRow,
} from "@/db";
import { timeLeft, type TimeLeft } from "@/core/words";
import type { Actor } from "./actor";
import { nowMs } from "./clock";
import { loadDirectory, personName, type Directory } from "./directory";

const MAX_DESK = 500;

export interface DeskRow extends TaskListRow {
  requester_name: string;
  covers_for: string | null;
  left: TimeLeft | null;
}

/** Time left in the reader's own working hours. */
export const leftFor = (d: Directory, person: string, now: number, due: number | null): TimeLeft | null => {
  const calendar =
    d.calendars.get(d.people.get(person)?.calendar_key ?? "office") ?? d.calendars.get("office");
  return due !== null && calendar ? timeLeft(calendar, now, due) : null;
};

/** What waits for a person, soonest limit first. */
export async function desk(actor: Actor): Promise<{ rows: DeskRow[]; total: number; now: number }> {
  const db = getPool();
  const d = await loadDirectory(db);
  const [rows, total, now] = await Promise.all([
    requests.deskOf(db, actor.id, MAX_DESK),
    requests.deskCount(db, actor.id),
    nowMs(db),
  ]);
  return {
    rows: rows.map((r) => ({
      ...r,
      requester_name: personName(d, r.requester_id),
      covers_for: r.for_person ? personName(d, r.for_person) : null,
      left: leftFor(d, actor.id, now, r.due_at),
    })),
    total,
    now,
  };
}

export interface Badges {
  desk: number;
  unread: number;
}
export async function badges(actor: Actor): Promise<Badges> {
  const db = getPool();
  const [deskN, unread] = await Promise.all([
    requests.deskCount(db, actor.id),
    notices.unreadCount(db, actor.id),
  ]);
  return { desk: deskN, unread };
}

export const noticesOf = (actor: Actor): Promise<NoticeRow[]> => notices.noticesOf(getPool(), actor.id, 100);
export const readNotices = async (actor: Actor): Promise<void> => {
  const db = getPool();
  await notices.markRead(db, actor.id, at(await nowMs(db))!);
};

export interface ProgressRow extends RequestListRow {
  requester_name: string;
  waiting_names: string[];
}
export const named = async (rows: RequestListRow[]): Promise<ProgressRow[]> => {
  const d = await loadDirectory(getPool());
  return rows.map((r) => ({
    ...r,
    requester_name: personName(d, r.requester_id),
    waiting_names: r.waiting_for.map((p) => personName(d, p)),
  }));
};

/** Requests of the processes a person owns. */
export async function progress(
  actor: Actor,
  f: Pick<RequestFilter, "process" | "state" | "search" | "offset" | "limit">,
): Promise<{ rows: ProgressRow[]; total: number; now: number }> {
  const db = getPool();
  const now = await nowMs(db);
  const { rows, total } = await requests.listRequests(db, { ...f, owner: actor.id, now: at(now)! });
  return { rows: await named(rows), total, now };
}

/** Time left until a limit, in the reader's own working hours. */
export async function leftText(actor: Actor, due: number): Promise<TimeLeft | null> {
  const db = getPool();
  return leftFor(await loadDirectory(db), actor.id, await nowMs(db), due);
}

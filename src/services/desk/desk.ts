import {
  at,
  getPool,
  processes,
  requests,
  searching,
  type RequestFilter,
  type RequestListRow,
  type TaskListRow,
} from "@/db";
import { timeLeft, type TimeLeft } from "@/core/words";
import { askerName, personName, type Directory } from "../kernel/directory";
import { defineView, type Call } from "../kernel/defineUseCase";
import { answeredTogether, type AnsweredTogether } from "./answerSeveral";

const MAX_DESK = 500;

export interface DeskRow extends TaskListRow {
  requester_name: string;
  covers_for: string | null;
  left: TimeLeft | null;
  /** How it may be answered together with others; null for one by one. */
  with_others: AnsweredTogether | null;
}

/** Time left in the reader's own working hours. */
export const leftFor = (d: Directory, person: string, now: number, due: number | null): TimeLeft | null => {
  const calendar =
    d.calendars.get(d.people.get(person)?.calendar_key ?? "office") ?? d.calendars.get("office");
  return due !== null && calendar ? timeLeft(calendar, now, due) : null;
};

/** Everything here is somebody's own; the policy is asked all the same. */
const own = (c: Call) => c.may({ action: "use own", person: c.actor.id });

/** What waits for a person, soonest limit first. */
export const desk = defineView(
  ["use own"],
  async (c, limit: number = MAX_DESK): Promise<{ rows: DeskRow[]; total: number; now: number }> => {
    const [d, now] = [await c.directory(), await c.now()];
    if (!own(c)) return { rows: [], total: 0, now };
    const { rows, total } = await requests.deskOf(getPool(), c.actor.id, Math.min(limit, MAX_DESK));
    const together = await answeredTogether(d, rows);
    return {
      rows: rows.map((r) => ({
        ...r,
        requester_name: askerName(d, r),
        covers_for: r.for_person ? personName(d, r.for_person) : null,
        left: leftFor(d, c.actor.id, now, r.due_at),
        with_others: together(r),
      })),
      total,
      now,
    };
  },
);

/** What is with whoever covers for a person, to be taken back once they are here again. */
export const covered = defineView(
  ["use own"],
  async (c, limit: number): Promise<{ rows: CoveredTask[]; total: number }> => {
    if (!own(c)) return { rows: [], total: 0 };
    const d = await c.directory();
    const { rows, total } = await requests.coveredOf(getPool(), c.actor.id, limit);
    return { rows: rows.map(({ cover_id, ...r }) => ({ ...r, cover: personName(d, cover_id) })), total };
  },
);
export type CoveredTask = Omit<requests.CoveredRow, "cover_id"> & { cover: string };

export interface ProgressRow extends RequestListRow {
  requester_name: string;
  waiting_names: string[];
}
const named = async (c: Call, rows: RequestListRow[]): Promise<ProgressRow[]> => {
  const d = await c.directory();
  return rows.map((r) => ({
    ...r,
    requester_name: askerName(d, r),
    waiting_names: r.waiting_for.map((p) => personName(d, p)),
  }));
};

/** Own requests, newest first. */
export const myRequests = defineView(
  ["use own"],
  async (c, offset: number, limit: number): Promise<{ rows: ProgressRow[]; total: number }> => {
    const db = getPool();
    if (!own(c)) return { rows: [], total: 0 };
    const of = { requester: c.actor.id, now: at(await c.now())!, limit, offset };
    const { rows, total } = await requests.listRequests(db, of);
    return { rows: await named(c, rows), total };
  },
);

/** Requests of the processes a person owns. */
export const progress = defineView(
  ["see progress"],
  async (
    c,
    f: Pick<RequestFilter, "process" | "state" | "search" | "offset" | "limit">,
  ): Promise<{ rows: ProgressRow[]; total: number; now: number }> => {
    const now = await c.now();
    // The list holds only processes this person owns.
    if (!c.may({ action: "see progress", owner: true })) return { rows: [], total: 0, now };
    const of = { ...f, owner: c.actor.id, now: at(now)! };
    const { rows, total } = await searching((on) => requests.listRequests(on, of));
    return { rows: await named(c, rows), total, now };
  },
);

/** The processes somebody owns, by name. */
export const ownedProcesses = defineView(
  ["see progress"],
  async (c): Promise<{ key: string; name: string }[]> =>
    c.may({ action: "see progress", owner: true }) ? processes.ownedBy(getPool(), c.actor.id) : [],
);

/** How many requests of the processes somebody owns stand where, counted up to a limit. */
export const progressCounts = defineView(
  ["see progress"],
  async (c, process: string | null): Promise<requests.ProgressCounts> => {
    if (!c.may({ action: "see progress", owner: true })) return { open: 0, late: 0, stuck: 0 };
    const now = await c.now();
    return searching((on) => requests.progressCounts(on, c.actor.id, process, at(now)!));
  },
);

/** Time left until a limit, in the reader's own working hours. */
export const leftText = defineView(["use own"], async (c, due: number): Promise<TimeLeft | null> => {
  return own(c) ? leftFor(await c.directory(), c.actor.id, await c.now(), due) : null;
});

export const MOST_IN_VIEW = requests.MOST_IN_VIEW;

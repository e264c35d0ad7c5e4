import {
  inCall,
  levelOf,
  newsOf,
  NEW_REQUEST,
  proceduresFrom,
  type CompiledRelease,
  type Effect,
  type News,
  type NewsKind,
  type Procedures,
  type ProceduresRead,
  type Projections,
  type RequestState,
} from "@/core/engine";
import { requests, type Db, type Job } from "@/db";
import { executorOf } from "@/steps/effects";
import type { MailAsked } from "@/steps/shapes";
import { viaText, type Actor } from "../kernel/actor";
import type { Carried } from "./carry";
import { leavesAlone } from "./leavesAlone";

/** When a command happens. Seeding passes its own clock and delivers by itself; everything else leaves it out. */
export interface Occasion {
  at: number;
  /** Jobs are added by the caller later. */
  withoutJobs: true;
}

/** What a command left to be done and shown, for whoever drives requests without workers. */
export interface Consequences {
  changes: Projections;
  outside: Effect[];
}

/** By id as tasks name it: of a step in a procedure with the step that hands to it. */
function stepNames(r: CompiledRelease, s: RequestState, procedures: Procedures): Record<string, string> {
  const own = [...r.places].map(([id, p]) => [id, p.step.name]);
  const inside = Object.values(s.calls).flatMap((c) => {
    const called = procedures.byId(c.release);
    const names = called ? Object.entries(stepNames(called, c.state, procedures)) : [];
    return names.map(([id, name]) => [inCall(c.step, id), name]);
  });
  return Object.fromEntries([...own, ...inside]);
}

/**
 * The mails a step asked for: where somebody gets a copy one for all, so that they see each other, else one for each, who
 * see nobody else and answer in a thread of their own.
 */
function mailsOf(
  t: Carried["told"][number],
  asked: MailAsked,
  { release, occasion }: Keep,
): requests.NewMail[] {
  const { to, copy, blind, replyTo = null, files, again = false, hidden = false, letter = null } = asked;
  const together = copy.length + blind.length > 0;
  return (together ? [to] : to.map((r) => [r])).map((receivers, part) => ({
    effect: t.effect,
    part,
    step: t.step,
    scope: t.scope,
    mailbox: release.definition.mailbox ?? "",
    receivers,
    copies: copy,
    blind,
    replyTo,
    subject: t.subject,
    text: t.text,
    letter,
    files,
    again,
    hidden,
    sent: occasion !== undefined,
  }));
}

/** The job that delivers an outside effect; the id of the effect goes with it over every try. */
const jobOf = (effect: Effect): Job => {
  const executor = executorOf(effect);
  if (executor.where === "inside" || executor.where === "kept")
    throw new Error(`a "${effect.kind}" is no job`);
  return { task: "effect", payload: { effect }, attempts: executor.attempts };
};

/**
 * Looks once more at what a request has begun to wait for, a moment later: a change that was made meanwhile, and not yet
 * to be seen by either, is seen then.
 */
const LOOK: Job = { task: "look", payload: {}, attempts: 25, afterMs: 2000 };

/** News by which a task comes to somebody, or is brought to mind. */
const COMES: ReadonlySet<NewsKind> = new Set(["task came", "covering", "handed over", "reminded"]);

/** The mail to somebody to whom a task came, where its step says that they are written to. */
function asksByMail(n: News, state: RequestState, { release, occasion }: Keep): requests.NewMail[] {
  if (!COMES.has(n.kind) || n.to === null || n.task === null) return [];
  const level = levelOf(state, n.task);
  const task = level?.state.tasks[level.id];
  const letter = task && level.state.visits[task.visit]?.letter;
  if (!task || !letter) return [];
  const { subject, text, letter: written = null, hidden = false } = letter;
  return [
    {
      effect: `ask:${n.task}:${n.seq}:${n.to}`,
      part: 0,
      step: task.step,
      scope: task.scope ?? null,
      mailbox: release.definition.mailbox ?? "",
      receivers: [{ person: n.to }],
      copies: [],
      blind: [],
      replyTo: null,
      subject: n.kind === "reminded" ? `Reminder: ${subject}` : subject,
      text,
      letter: written,
      files: [],
      again: false,
      hidden,
      asks: { task: n.task, person: n.to, seq: state.seq },
      sent: occasion !== undefined,
    },
  ];
}

/** Sends what an effect has put into the book of mails. */
const mailJob = (effect: string): Job => ({ task: "send_mail", payload: { effect }, attempts: 25 });

/** Goes on with rounds of which a command opened as many as one may. */
const GO_ON: Job = { task: "go_on", payload: {}, attempts: 25 };

/** Ends what was started by steps whose requests need it no more. */
const CALL_OFF: Job = { task: "call_off", payload: {}, attempts: 25 };

interface Keep {
  release: CompiledRelease;
  procedures: ProceduresRead;
  row: Pick<requests.RequestRow, "id" | "version" | "state" | "in_parts"> | null;
  fresh: requests.NewRequest | null;
  occasion: Occasion | undefined;
  answered: string | null;
  by: Actor;
}
/** Writes what a command came to; null where the request is at another version by now. */
export function keep(db: Db, c: Carried, k: Keep): Promise<string | null> {
  const procedures = proceduresFrom(k.procedures);
  const news = newsOf(k.release, k.row?.state ?? NEW_REQUEST, c.state, c.events, procedures);
  const mails = [
    ...c.told.flatMap((t) => (t.mail ? mailsOf(t, t.mail, k) : [])),
    ...news.flatMap((n) => asksByMail(n, c.state, k)),
  ];
  const begins = c.changes.watches.some((w) => w.records.length > 0);
  return requests.saveRequest(db, {
    id: k.row?.id ?? null,
    from: k.row?.version ?? 0,
    fresh: k.fresh,
    title: c.title,
    before: k.row?.in_parts ? k.row.state : null,
    state: c.state,
    events: c.events,
    changes: c.changes,
    news,
    told: c.told,
    mails,
    stepNames: stepNames(k.release, c.state, procedures),
    jobs: k.occasion
      ? null
      : [
          ...c.outside.map(jobOf),
          ...[...new Set(mails.map((m) => m.effect))].map(mailJob),
          ...(c.goesOn ? [GO_ON] : []),
          ...(begins ? [LOOK] : []),
          ...(leavesAlone(k.row?.state ?? NEW_REQUEST, c) ? [CALL_OFF] : []),
        ],
    answered: k.answered,
    via: viaText(k.by.via),
  });
}

import {
  inCall,
  levelOf,
  newsOf,
  NEW_REQUEST,
  proceduresFrom,
  stageNow,
  type CompiledRelease,
  type Effect,
  type News,
  type NewsKind,
  type Procedures,
  type ProceduresRead,
  type Projections,
  type RequestState,
  type VisitLetter,
} from "@/core/engine";
import { outside as visitors, requests, type Db, type Job } from "@/db";
import { executorOf } from "@/steps/effects";
import { followerOf, hearerOf, isOutside } from "@/core/form";
import { stepKind, type Receiver } from "@/core/kinds";
import { asksBy } from "@/core/route";
import { askerLetter, sentLetter } from "@/core/words";
import type { ChatAsked, MailAsked } from "@/steps/shapes";
import { viaText, type Actor } from "../kernel/actor";
import type { Carried } from "./carry";
import { openOf } from "../outside/visitor";
import { leavesAlone } from "./leavesAlone";
import { accountsNamed, askOutside, overOutside, tellOutside, type OutsideMail } from "./toOutsiders";

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

/** Steps of which whoever is asked may answer several at once; those of procedures are answered one by one. */
function answeredAtOnce(r: CompiledRelease): ReadonlySet<string> {
  const known = atOnce.get(r);
  if (known) return known;
  const steps = [...r.places.values()].map((p) => p.step);
  const of = new Set(steps.filter((s) => stepKind(r.kinds, s).asks?.who(s).atOnce).map((s) => s.id));
  atOnce.set(r, of);
  return of;
}
const atOnce = new WeakMap<CompiledRelease, ReadonlySet<string>>();

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
    ...BY_MAIL,
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

const BY_MAIL = { channel: "mail", room: null } as const;

/** The messages in chat a step asked for: one for each person, or one for a room. */
function chatsOf(t: Carried["told"][number], asked: ChatAsked, { occasion }: Keep): requests.NewMail[] {
  const { people, room = null, hidden = false } = asked;
  const to: Receiver[][] = room === null ? people.map((person) => [{ person }]) : [[]];
  return to.map((receivers, part) => ({
    ...NOTHING_MORE,
    channel: "chat",
    room,
    effect: t.effect,
    part,
    step: t.step,
    scope: t.scope,
    receivers,
    subject: t.subject,
    text: t.text,
    letter: null,
    hidden,
    sent: occasion !== undefined,
  }));
}
/** What only some mails have. */
const NOTHING_MORE: Pick<requests.NewMail, "mailbox" | "copies" | "blind" | "replyTo" | "files" | "again"> = {
  mailbox: "",
  copies: [],
  blind: [],
  replyTo: null,
  files: [],
  again: false,
};

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
const COMES: ReadonlySet<NewsKind> = new Set([
  "task came",
  "covering",
  "handed over",
  "came back",
  "reminded",
]);

/** What is written to somebody to whom a task came, where its step says that they are: by mail, in chat, or both. */
function asksOf(n: News, state: RequestState, { release, occasion }: Keep): requests.NewMail[] {
  if (!COMES.has(n.kind) || n.to === null || n.task === null) return [];
  const level = levelOf(state, n.task);
  const task = level?.state.tasks[level.id];
  const letter = letterOf(state, n.task);
  if (!task || !letter) return [];
  const { subject, text, letter: written = null, hidden = false } = letter;
  const asked = {
    ...NOTHING_MORE,
    effect: `ask:${n.task}:${n.seq}:${n.to}`,
    step: task.step,
    scope: task.scope ?? null,
    receivers: [{ person: n.to }],
    subject: n.kind === "reminded" ? `Reminder: ${subject}` : subject,
    text,
    letter: written,
    hidden,
    asks: { task: n.task, person: n.to, seq: state.seq },
    sent: occasion !== undefined,
  };
  const { mail, chat } = asksBy(letter);
  return [
    ...(mail ? [{ ...asked, ...BY_MAIL, part: 0, mailbox: release.definition.mailbox ?? "" }] : []),
    ...(chat ? [{ ...asked, channel: "chat" as const, room: null, part: 1 }] : []),
  ];
}

/** The tasks a command touched of which people read in chat: what stands there is to be what is so. */
function shownInChat({ changes, state }: Carried, before: RequestState): string[] {
  return changes.tasks.flatMap(({ id }) => {
    // A visit goes with its end.
    const letter = letterOf(state, id) ?? letterOf(before, id);
    return letter && asksBy(letter).chat ? [id] : [];
  });
}
function letterOf(state: RequestState, id: string): VisitLetter | undefined {
  const level = levelOf(state, id);
  const task = level?.state.tasks[level.id];
  return task && level.state.visits[task.visit]?.letter;
}
const showJob = (tasks: string[]): Job => ({ task: "show_in_chat", payload: { tasks }, attempts: 25 });

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
  /** Those who have news by other ways than the screen. */
  beyond: ReadonlySet<string>;
  /** Whom its notes mention, who may look at it by that. */
  mentioned: readonly News[];
}
/** A letter to somebody outside who follows their request: they read no notices. */
function toFollower(
  letter: { subject: string; text: string } | null,
  effect: string,
  c: Carried,
  { release, occasion }: Keep,
): requests.NewMail[] {
  const to = hearerOf(c.state.requester);
  if (to === null || letter === null) return [];
  return [
    {
      ...NOTHING_MORE,
      ...BY_MAIL,
      effect: `asker:${effect}`,
      part: 0,
      step: null,
      scope: null,
      mailbox: release.definition.mailbox ?? "",
      receivers: [to],
      subject: letter.subject,
      text: letter.text,
      letter: null,
      hidden: false,
      sent: occasion !== undefined,
    },
  ];
}

/** What they are written of the news of their request. */
function newsToFollower(n: News, c: Carried, k: Keep): requests.NewMail[] {
  const back = c.events.findLast((e) => e.type === "returned for changes");
  const note = back?.type === "returned for changes" ? back.note : "";
  const level = n.task === null ? null : levelOf(c.state, n.task);
  const question = level?.state.tasks[level.id]?.question?.text ?? null;
  return toFollower(askerLetter(n, { number: c.state.number, note, question }), `${n.kind}:${n.seq}`, c, k);
}

/** That what they sent has come, before anything else is written. */
function arrival(c: Carried, k: Keep): requests.NewMail[] {
  if (!k.fresh) return [];
  const { name, starts } = k.release.definition;
  const letterhead = openOf(starts)?.open.letterhead ?? name;
  return toFollower(sentLetter({ number: c.state.number, process: name, letterhead }), "sent", c, k);
}

/** The stage whoever asked reads; of what has ended they read how. */
function stageText({ stages }: CompiledRelease, state: RequestState): string | null {
  const at = stageNow(stages, state, null);
  return at === null ? null : stages.names[at]!;
}

/** What somebody outside who is asked, or told, is written: they read no notices. */
function toOutsider(n: News, state: RequestState, m: OutsideMail): requests.NewMail[] {
  const { to, task } = n;
  if (to === null) return [];
  if (task === null || !COMES.has(n.kind) || !("step" in n.facts)) return overOutside({ ...n, to }, m);
  return askOutside({ ...n, to, task }, n.facts.step, letterOf(state, task), m);
}

/** Writes what a command came to; null where the request is at another version by now. */
export async function keep(db: Db, c: Carried, k: Keep): Promise<string | null> {
  const procedures = proceduresFrom(k.procedures);
  const all = newsOf(k.release, k.row?.state ?? NEW_REQUEST, c.state, c.events, procedures);
  const follower = followerOf(c.state.requester);
  const isTheirs = (n: News) => n.to !== null && n.to === follower;
  const outside: OutsideMail = {
    state: c.state,
    release: k.release,
    blank: {
      ...NOTHING_MORE,
      ...BY_MAIL,
      mailbox: k.release.definition.mailbox ?? "",
      sent: k.occasion !== undefined,
    },
  };
  const others = all.filter((n) => !isTheirs(n));
  const news = [...others.filter((n) => n.to === null || !isOutside(n.to)), ...k.mentioned];
  const mails = [
    ...arrival(c, k),
    ...c.told.flatMap((t) => (t.mail ? mailsOf(t, t.mail, k) : [])),
    ...c.told.flatMap((t) => (t.chat ? chatsOf(t, t.chat, k) : [])),
    ...all.filter(isTheirs).flatMap((n) => newsToFollower(n, c, k)),
    ...news.flatMap((n) => asksOf(n, c.state, k)),
    ...others.flatMap((n) => (n.to !== null && isOutside(n.to) ? toOutsider(n, c.state, outside) : [])),
    ...c.told.flatMap((t) => tellOutside(t, outside)),
  ];
  const shown = shownInChat(c, k.row?.state ?? NEW_REQUEST);
  const begins = c.changes.watches.some((w) => w.records.length > 0);
  // Whoever is asked has an account by the time they are.
  for (const account of accountsNamed(c.events)) await visitors.insertAsked(db, account);
  return requests.saveRequest(db, {
    id: k.row?.id ?? null,
    from: k.row?.version ?? 0,
    fresh: k.fresh,
    title: c.title,
    stage: stageText(k.release, c.state),
    before: k.row?.in_parts ? k.row.state : null,
    state: c.state,
    events: c.events,
    changes: c.changes,
    news,
    told: c.told.map((t) => ({ ...t, people: t.people.filter((p) => !isOutside(p)) })),
    mails,
    beyond: k.beyond.size > 0 && (news.length > 0 || c.told.some((t) => t.own)),
    stepNames: stepNames(k.release, c.state, procedures),
    atOnce: answeredAtOnce(k.release),
    jobs: k.occasion
      ? null
      : [
          ...c.outside.map(jobOf),
          ...[...new Set(mails.map((m) => m.effect))].map(mailJob),
          ...(shown.length > 0 ? [showJob(shown)] : []),
          ...(c.goesOn ? [GO_ON] : []),
          ...(begins ? [LOOK] : []),
          ...(leavesAlone(k.row?.state ?? NEW_REQUEST, c) ? [CALL_OFF] : []),
        ],
    answered: k.answered,
    via: viaText(k.by.via),
  });
}

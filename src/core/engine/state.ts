import type { WrittenLetter } from "../letter";
import type { EffectKind, StepReason } from "@/steps/shapes";
import { NO_PARTY, type FormData, type Party, type Signed } from "../form";
import type { Kept, StoredValue } from "../kinds";
import type { AskMail, Tone } from "../route";

export type RequestStatus = "new" | "under way" | "finished" | "withdrawn" | "cancelled" | "stuck";
export type TaskStatus = "open" | "taken" | "answered" | "closed";

/** A position in the route. Branches and rounds are tokens whose parent waits at the step that opened them. */
export interface Token {
  id: string;
  step: string;
  parent: string | null;
  /** Branch id within the parent's step. */
  branch: string | null;
  /** Whose values it reads before those of the request: a round. Absent for the request's own. */
  scope?: string;
  /** How many tokens it waits for; absent for none. */
  waitsFor?: number;
  /** How many branches it opened where it stands; absent for none. */
  opened?: number;
  /** Nobody waits for it: it goes on beside its parent, and no longer than that. */
  beside?: true;
  /** It goes no further than its step, where somebody is asked for something the route does not wait for. */
  errand?: "called off" | "stays";
  /** It goes through a list of a step that was left long ago; where what it stands beside ends, it goes on beside what is around that. */
  late?: true;
  /** Steps it went through since anybody or anything was waited for; absent for none. A circle is found by it. */
  moves?: number;
}

/** What is kept of one round, or of the request itself: outcomes belong to whoever came to them, and to nobody else. */
export interface ScopeValues {
  outcomes: Readonly<Record<string, Outcome>>;
  /** By step, what it found or gathered when it was last come to. */
  kept: Readonly<Record<string, Kept>>;
}

/** The values of one round. Its id is that of the token that goes through it. */
export interface Scope extends ScopeValues {
  id: string;
  /** The one around it; null where that is the request's. */
  parent: string | null;
  run: string;
  /** From 0. */
  index: number;
  of: number;
  /** What one calls a round: "Object". */
  one: string;
  /** What it is about; empty where that cannot be said to everybody. */
  name: string;
}

/** One time a list of steps is gone through again and again. What it goes over is fixed when it is opened. */
export interface Run {
  id: string;
  /** The token that waits for it. */
  token: string;
  step: string;
  list: string;
  scope: string | null;
  /** One for each round, or only how many rounds there are. */
  items: readonly StoredValue[] | number;
  /** Rounds that may be under way at once; null for all of them. */
  atOnce: number | null;
  /** Whether a round that is stuck holds up those that are not opened yet. */
  stuckHolds: boolean;
  /** Rounds opened so far. */
  next: number;
  /** Of those, how many are under way. */
  open: number;
  ended: number;
  calledOff: number;
  /** What rounds left behind, in the order they ended: the round's index and what. */
  collected: readonly (readonly [number, StoredValue])[];
  /** No more rounds are opened. */
  closing?: true;
  /** Goes on later, by a job: a command opens only so many rounds. */
  parked?: true;
}

/**
 * A procedure that is being gone through: a request within the request, with tokens, values and outcomes of its own, on
 * the release that was live when it was entered. Ids of what stands in it are known outside with its own before them
 * (`inCall`).
 */
export interface Call {
  id: string;
  /** The token that waits for it, and the step that hands to it. */
  token: string;
  step: string;
  scope?: string;
  procedure: string;
  release: string;
  state: RequestState;
  /** Nobody waits for it any more: it came to its end, or was called off. */
  over?: true;
}

/** Somebody asked, and for whom they stand in when covering. */
export interface Candidate {
  person: string;
  for?: string;
}

export interface Task {
  id: string;
  visit: string;
  step: string;
  token: string;
  /**
   * `decide` and `complete` are of the step itself. Beside it are asked: the requester for changes, or a question about the
   * request (`question`), and a colleague for advice.
   */
  purpose: "decide" | "complete" | "changes" | "question" | "advice";
  /** The round it belongs to; absent outside of all rounds. */
  scope?: string;
  /** One of very many of its visit: see `parts`. */
  wide?: true;
  /** What it is about, where it is one of several rounds: "Object 3 of 7: Rope makers". */
  about?: string;
  candidates: Candidate[];
  /** It was given to this person because it was their turn; absent where it was not chosen so. */
  turn?: string;
  /** Who has it: the only candidate from the start, or whoever took it. */
  holder: string | null;
  status: TaskStatus;
  openedAt: number;
  due: number | null;
  endedAt?: number;
  answer?: string;
  note?: string;
  by?: string;
  /** Who gets it back before their answer counts, the last first; absent where whoever has it answers for good. */
  back?: readonly string[];
  /** What whoever it was handed to would answer; absent where it has not come back. */
  proposed?: Proposal;
  /** What whoever had another task asks; absent where the step asks. */
  question?: Question;
}

/** An answer that decides nothing by itself: whoever has the task again does. */
export interface Proposal {
  answer: string;
  label: string;
  note: string;
  by: string;
  at: number;
}

/** Asked beside a task, which stays where it is. */
export interface Question {
  /** The task it was asked at, and its visit. */
  of: string;
  visit: string;
  by: string;
  text: string;
}

/** Whether a task is the step's own: what is answered there counts at the step. */
export const isOfStep = (t: Pick<Task, "purpose">): boolean =>
  t.purpose === "decide" || t.purpose === "complete";

/** Whether it is asked beside another task, and changes nothing of the request. */
export const isQuestion = (t: Pick<Task, "purpose">): boolean =>
  t.purpose === "question" || t.purpose === "advice";

/** One time a step is entered and people are asked. */
export interface Visit {
  id: string;
  step: string;
  token: string;
  purpose: Task["purpose"];
  scope?: string;
  due: number | null;
  openedAt: number;
  /** How many had to agree when it was opened; 1 unless all or a share must. */
  needed: number;
  asked: number;
  /** Who is asked after whoever is now, one after another; absent where nobody is. */
  rest?: readonly string[];
  /** By field or column, all that can be chosen there; others are as their form says. */
  offers?: Readonly<Record<string, readonly string[]>>;
  /** What is signed besides the form: the file whose pages are shown, and the field for the signature. */
  paper?: { file: string; field: string };
  /** What those asked are written. */
  letter?: VisitLetter;
  /** Very many were asked when it was opened. */
  wide?: true;
  /** Its limit counts by the clock; kept only where it may stand still. */
  clock?: true;
  /** Its limit stands still, and `due` is null meanwhile. */
  stopped?: StoppedLimit;
}

/** A limit that stands still. */
export interface StoppedLimit {
  since: number;
  /** Until when it went. */
  due: number;
  /** What of its ladder had not happened yet: rungs with the numbers of their turns, as "r1.2". */
  left: readonly string[];
}
/** As it came to when they were asked. */
export interface VisitLetter {
  subject: string;
  text: string;
  /** Where it is one of the process's letters: its parts. */
  letter?: WrittenLetter;
  /** By which ways it goes to them; absent: by mail. */
  by?: AskMail["by"];
  /** It tells of what is hidden from somebody. */
  hidden?: true;
}

export interface Timer {
  id: string;
  /** The visit whose ladder it is of, or the sleep it ends. */
  visit: string;
  rung: string;
  /** Counts the repeats of a rung, from 1. */
  turn: number;
  at: number;
}

/** A token that sleeps until a moment, or until something has come. Its timer stands under its id. */
export interface Sleep {
  id: string;
  token: string;
  step: string;
  scope?: string;
  since: number;
  /** Null where only what it waits for wakes it. */
  until: number | null;
  /** The records by which it was told last that what it waits for has not come; absent where it waits for a moment only. */
  watches?: readonly WatchedRecord[];
}
export interface WatchedRecord {
  register: string;
  id: string;
}

/** Something asked of the world whose answer the token waits for. */
export interface Pending {
  id: string;
  token: string;
  step: string;
  kind: EffectKind;
}

export interface Outcome {
  answer: string;
  note: string;
  by: string | null;
  at: number;
}

export interface Stuck {
  token: string;
  step: string;
  reason: StuckReason;
  /** What could not be done: a retry asks for it under the same id. */
  effect?: string;
  /** The procedure that is stuck while the token waits for it; where in it and why, it knows itself. */
  call?: string;
}

/** Why a request cannot go on by itself; turned into a sentence where it is shown. */
export type StuckReason = StepReason | EngineReason;
export type EngineReason =
  | { code: "nobody"; data: { step: string; rule: string } }
  | { code: "too-many-asked"; data: { step: string; rule: string; found: number; most: number } }
  | { code: "runaway"; data: { step: string; limit: number } }
  /** A value that decides cannot be worked out. `why` is left out where it might tell of fields hidden from somebody. */
  | { code: "unclear"; data: { step: string; formula: string; why: string | null } }
  | { code: "too-many-offered"; data: { step: string; field: string; limit: number } }
  | { code: "bad-jump"; data: { step: string; to: string } }
  | { code: "no-procedure"; data: { step: string; procedure: string } }
  /** The procedure takes no value of this name any more. */
  | { code: "other-procedure"; data: { step: string; procedure: string; name: string } }
  /** The release it was gone through on hands no value of this name back. */
  | { code: "nothing-back"; data: { step: string; procedure: string; name: string } }
  /** What it was handed does not suffice. `fields` by name. */
  | { code: "bad-inputs"; data: { step: string; procedure: string; fields: string } }
  | { code: "too-deep"; data: { step: string; limit: number } }
  /** It is to send a letter that is not there. */
  | { code: "no-letter"; data: { letter: string } }
  | { code: "letter-too-long"; data: { letter: string; parts: number; characters: number } }
  /** A step draws up from a template that is not there. */
  | { code: "no-document"; data: { document: string } }
  | { code: "document-too-long"; data: { document: string; rows: number; characters: number } }
  /** What is to be signed there was not drawn up. `document` is the name of the step that does. */
  | { code: "nothing-to-sign"; data: { step: string; document: string } };

/** A part of the route that is under way, or the whole request, which has a limit of its own; its timers stand under its id. */
export interface Span {
  id: string;
  /** The part; empty for the whole request. */
  step: string;
  /** The token that is in it; null for the whole. */
  token: string | null;
  openedAt: number;
  due: number | null;
}

/** Somebody who does not work here, as whoever asks them knows them. */
export interface Outsider {
  name: string;
  email: string;
  /** What of it is read from something hidden from somebody; absent for nothing. */
  hides?: readonly ("name" | "email")[];
}

/** A check that somebody went on past, and why. `fields` are those it reads, by id. */
export interface PassedCheck {
  by: string;
  at: number;
  say: string;
  why: string;
  fields: readonly string[];
}

/** All of one request: always the fold of its events. */
export interface RequestState extends ScopeValues {
  seq: number;
  status: RequestStatus;
  requester: Party;
  number: string;
  startedAt: number;
  endedAt: number | null;
  result: { name: string; tone: Tone } | null;
  data: FormData;
  /**
   * By field, the number of the event that changed it last after the start; of line items by column (`lines/price`),
   * and under the field itself for rows that came or went.
   */
  changedAt: Readonly<Record<string, number>>;
  /** By field the signature it holds; absent for none. */
  signed?: Readonly<Record<string, Signed>>;
  /** Checks that somebody went on past, until something they read changes; absent for none. */
  passed?: Readonly<Record<string, PassedCheck>>;
  tokens: Readonly<Record<string, Token>>;
  visits: Readonly<Record<string, Visit>>;
  tasks: Readonly<Record<string, Task>>;
  timers: Readonly<Record<string, Timer>>;
  pending: Readonly<Record<string, Pending>>;
  /** Rounds under way, by the token that goes through each. */
  scopes: Readonly<Record<string, Scope>>;
  runs: Readonly<Record<string, Run>>;
  sleeps: Readonly<Record<string, Sleep>>;
  /** Procedures under way, and those that have ended of which tasks are known still. */
  calls: Readonly<Record<string, Call>>;
  /** Who chose how a step goes on in the place of those it asks; absent for none. */
  chose?: readonly { step: string; scope: string | null; by: string }[];
  /** People outside whom it asks, by their accounts; absent for none. */
  outsiders?: Readonly<Record<string, Outsider>>;
  /** Limits of parts and of the whole that run; absent where there never were any. */
  spans?: Readonly<Record<string, Span>>;
  /** Sleeps that wait for something to come; absent for none. */
  awaits?: number;
  stuck: readonly Stuck[];
  /** Last number given to a token, visit, task or effect of this request. */
  lastId: number;
  /** Rounds besides these are under way, and were not read: see `parts`. Never kept. */
  partial?: true;
}

export const NEW_REQUEST: RequestState = {
  seq: 0,
  status: "new",
  requester: NO_PARTY,
  number: "",
  startedAt: 0,
  endedAt: null,
  result: null,
  data: {},
  changedAt: {},
  tokens: {},
  visits: {},
  tasks: {},
  timers: {},
  pending: {},
  outcomes: {},
  kept: {},
  scopes: {},
  runs: {},
  sleeps: {},
  calls: {},
  stuck: [],
  lastId: 0,
};

export const isEnded = (s: Pick<RequestState, "status">): boolean =>
  s.status === "finished" || s.status === "withdrawn" || s.status === "cancelled";
export const isOpen = (t: Pick<Task, "status">): boolean => t.status === "open" || t.status === "taken";

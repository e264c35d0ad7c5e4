import type { EffectKind, StepReason } from "@/steps/shapes";
import type { FormData } from "../form";
import type { KeptRecords } from "../kinds";
import type { Tone } from "../route";

export type RequestStatus = "new" | "under way" | "finished" | "withdrawn" | "cancelled" | "stuck";
export type TaskStatus = "open" | "taken" | "answered" | "closed";

/** A position in the route. Branches of a Together are tokens whose parent waits at the Together. */
export interface Token {
  id: string;
  step: string;
  parent: string | null;
  /** Branch id within the parent's step. */
  branch: string | null;
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
  purpose: "decide" | "complete" | "changes";
  candidates: Candidate[];
  /** Who has it: the only candidate from the start, or whoever took it. */
  holder: string | null;
  status: TaskStatus;
  openedAt: number;
  due: number | null;
  endedAt?: number;
  answer?: string;
  note?: string;
  by?: string;
}

/** One time a step is entered and people are asked. */
export interface Visit {
  id: string;
  step: string;
  token: string;
  purpose: Task["purpose"];
  due: number | null;
  openedAt: number;
  /** How many had to agree when it was opened; 1 unless all or a share must. */
  needed: number;
  asked: number;
}

export interface Timer {
  id: string;
  visit: string;
  rung: string;
  /** Counts the repeats of a rung, from 1. */
  turn: number;
  at: number;
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
}

/** Why a request cannot go on by itself; turned into a sentence where it is shown. */
export type StuckReason = StepReason | EngineReason;
export type EngineReason =
  | { code: "nobody"; data: { step: string; rule: string } }
  | { code: "runaway"; data: { step: string; limit: number } }
  /** A value that decides cannot be worked out. `why` is left out where it might tell of fields hidden from somebody. */
  | { code: "unclear"; data: { step: string; formula: string; why: string | null } }
  | { code: "bad-jump"; data: { step: string; to: string } };

/** All of one request: always the fold of its events. */
export interface RequestState {
  seq: number;
  status: RequestStatus;
  requester: string;
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
  tokens: Readonly<Record<string, Token>>;
  visits: Readonly<Record<string, Visit>>;
  tasks: Readonly<Record<string, Task>>;
  timers: Readonly<Record<string, Timer>>;
  pending: Readonly<Record<string, Pending>>;
  outcomes: Readonly<Record<string, Outcome>>;
  /** By step, what it found when it was last come to. */
  kept: Readonly<Record<string, KeptRecords>>;
  stuck: readonly Stuck[];
  /** Last number given to a token, visit, task or effect of this request. */
  lastId: number;
}

export const NEW_REQUEST: RequestState = {
  seq: 0,
  status: "new",
  requester: "",
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
  stuck: [],
  lastId: 0,
};

export const isEnded = (s: Pick<RequestState, "status">): boolean =>
  s.status === "finished" || s.status === "withdrawn" || s.status === "cancelled";
export const isOpen = (t: Pick<Task, "status">): boolean => t.status === "open" || t.status === "taken";

import type { Clause } from "../expression";
import type { FormData } from "../form";
import type { Candidate, StuckReason, Task, Timer, Visit } from "./state";
import type { TellEffect, WriteEffect } from "./effects";

/** What happened. Bodies hold everything `evolve` and the trail need; nothing is looked up later. */
export type EventBody =
  | { type: "request started"; requester: string; number: string; data: FormData }
  | { type: "data changed"; data: FormData; task?: string }
  | { type: "token placed"; token: string; step: string; parent: string | null; branch: string | null }
  | { type: "token moved"; token: string; step: string }
  | { type: "way chosen"; step: string; way: string; name: string; why: Clause[] }
  | {
      type: "branches opened";
      step: string;
      opened: string[];
      left: { branch: string; name: string; why: Clause[] }[];
    }
  | { type: "branch ended"; token: string; step: string }
  | { type: "visit opened"; visit: Visit; why?: Clause[] }
  | { type: "task opened"; task: Task }
  | { type: "task taken"; task: string }
  | { type: "task put back"; task: string }
  | { type: "task handed over"; task: string; to: Candidate[]; note: string; rung?: string }
  | { type: "decider added"; task: Task; rung: string }
  | {
      type: "answer given";
      task: string;
      answer: string;
      label: string;
      note: string;
      for?: string;
      automatic?: true;
    }
  | { type: "task closed"; task: string; reason: "decided" | "ended" | "returned" }
  /** `given` counts the answers that came in; with one, the answer itself says it all. */
  | {
      type: "step decided";
      visit: string;
      step: string;
      answer: string;
      label: string;
      note: string;
      given: number;
    }
  | { type: "returned for changes"; visit: string; step: string; note: string }
  | { type: "changes sent"; visit: string; step: string }
  | { type: "values set"; step: string; data: FormData }
  | { type: "write asked"; token: string; effect: WriteEffect }
  | { type: "written"; effect: string; step: string; records: WrittenRecord[] }
  | { type: "write failed"; effect: string; step: string; reason: StuckReason }
  | { type: "tell asked"; effect: TellEffect }
  | { type: "told"; effect: string; people: string[] }
  | { type: "timer set"; timer: Timer }
  | { type: "timer cleared"; timer: string }
  | {
      type: "rung fired";
      timer: string;
      visit: string;
      step: string;
      rung: string;
      did: string;
      found: boolean;
    }
  | { type: "got stuck"; token: string; step: string; reason: StuckReason }
  | { type: "got unstuck"; token: string; step: string; how: "retried" | "skipped" }
  | { type: "request finished"; step: string; result: string; tone: "agree" | "refuse" | "plain" }
  | { type: "request withdrawn"; note: string }
  | { type: "request cancelled"; note: string };

export interface WrittenRecord {
  register: string;
  id: string;
  title: string;
  did: "added" | "changed" | "removed" | "left alone";
}

/** An event with its place in the request's history. `by` is null when Cobble Step itself acted. */
export type RequestEvent = EventBody & { seq: number; at: number; by: string | null };

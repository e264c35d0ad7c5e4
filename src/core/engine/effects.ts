import type { Task, Timer } from "./state";

/** Records to be written, inside the transaction of the command that asked for it. */
export interface WriteEffect {
  kind: "write";
  id: string;
  step: string;
  register: string;
  op: "add" | "change" | "remove";
  rows: { record: string | null; values: Readonly<Record<string, string | boolean | null>> }[];
  must: string | null;
  otherwise: "stop" | "leave";
}

/** People to be told; delivered by a worker at least once, its id being the idempotency key. */
export interface TellEffect {
  kind: "tell";
  id: string;
  step: string;
  people: string[];
  subject: string;
  text: string;
}

export type Effect =
  | WriteEffect
  | TellEffect
  | { kind: "task"; task: Task }
  | { kind: "set timer"; timer: Timer }
  | { kind: "clear timer"; timer: string };

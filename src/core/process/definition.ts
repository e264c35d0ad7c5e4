import type { Length } from "../calendar";
import type { Access, Field, FormData } from "../form";

/** Who a step finds. Formulas may come to a person, a list of people, or nobody. */
export type Rule =
  | { by: "requester" }
  | { by: "person"; person: string }
  | { by: "group"; group: string }
  /** Holders of a duty; `place` is a formula for the site or department, absent for any. */
  | { by: "duty"; duty: string; place?: string }
  /** `levels` up from `of` (a formula; the requester when absent; in a rung, whoever has the task). */
  | { by: "manager"; of?: string; levels?: number }
  /** A person field, a column of a looked-up record (`Store.Keeper`), or anything that comes to people. */
  | { by: "formula"; formula: string };

export interface Assignment {
  rule: Rule;
  /**
   * one: a single task that any of those found may take. first: everybody is asked, the first answer counts.
   * all: everybody must give the first answer of the step. share: that part of them must.
   */
  how: "one" | "first" | "all" | "share";
  /** Percent, with `share`. */
  share?: number;
  fallback?: Rule;
  /** Whether the requester may answer; never, unless said. */
  requesterToo?: boolean;
}

export interface LimitRule {
  when: string;
  length: Length;
}

export type RungAction =
  | { do: "remind" }
  | { do: "tell"; who: Rule; text: string }
  | { do: "add"; who: Rule }
  | { do: "hand over"; to: Rule }
  | { do: "answer"; answer: string; note: string };

export interface Rung {
  id: string;
  /** Relative to the limit. `at` needs no length. */
  when: "before" | "at" | "after";
  length?: Length;
  every?: Length;
  times?: number;
  action: RungAction;
}

export interface Limit {
  /** First rule that holds gives the length; `otherwise` when none does. */
  rules?: LimitRule[];
  otherwise: Length;
  rungs: Rung[];
}

export interface Answer {
  id: string;
  label: string;
  tone: "agree" | "refuse" | "plain";
  note?: "must";
  /** Goes back to the requester for changes and then to this step again. */
  returns?: true;
  steps: Step[];
}

export interface Way {
  id: string;
  name: string;
  /** Formula; absent on the last way, taken when no other holds. */
  when?: string;
  steps: Step[];
}

export interface Branch {
  id: string;
  name: string;
  /** Formula for whether this branch is needed at all. */
  when?: string;
  steps: Step[];
}

interface StepBase {
  id: string;
  name: string;
}

export type Step = StepBase &
  (
    | { kind: "decide"; who: Assignment; answers: Answer[]; limit?: Limit }
    | { kind: "complete"; who: Assignment; button: string; limit?: Limit }
    | { kind: "choose"; ways: Way[] }
    | { kind: "together"; branches: Branch[] }
    | {
        kind: "write";
        op: "add" | "change" | "remove";
        register: string;
        /** Formula for the record to change or remove. */
        record?: string;
        /** Name of line items: once per line, with the line's columns in scope. */
        each?: string;
        values: { column: string; value: string }[];
        /** Condition over the record's own columns that must hold, read inside the transaction. */
        must?: string;
        /** What happens to a record for which `must` does not hold. */
        otherwise?: "stop" | "leave";
        /** A look-up field that keeps the record added. */
        into?: string;
      }
    | { kind: "work out"; set: { field: string; value: string }[] }
    | { kind: "tell"; who: Rule; subject: string; text: string }
    | { kind: "jump"; to: string }
    | { kind: "finish"; result: string; tone: "agree" | "refuse" | "plain" }
  );

export type StepKind = Step["kind"];
export type StepOf<K extends StepKind> = Extract<Step, { kind: K }>;

export interface Start {
  kind: "form";
  /** Who may ask: everybody signed in, or the members of a group or department. */
  who: { by: "everybody" } | { by: "group"; group: string } | { by: "department"; department: string };
}

export interface Sample {
  id: string;
  name: string;
  requester: string;
  data: FormData;
}

/** Access by step id (or "start"), then field id. What is not said: edit at the start, see elsewhere. */
export type AccessTable = Readonly<Record<string, Readonly<Record<string, Access>>>>;

export interface ProcessDefinition {
  format: "cobble-step/process@1";
  key: string;
  name: string;
  purpose: string;
  owners: string[];
  numbering: { prefix: string; digits: number };
  /** Text with {formulas}, shown wherever the request is listed. */
  title: string;
  starts: Start[];
  fields: Field[];
  access: AccessTable;
  route: Step[];
  /** Key of a working calendar; the office's when absent. */
  calendar?: string;
  samples: Sample[];
}

export const START = "start";

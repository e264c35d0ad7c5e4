import type { Clause } from "@/core/expression";
import type { StepBase } from "@/core/route/stepBase";

/** Records one step may find. */
export const MOST_FOUND = 5000;

/** Reads records of a register; what it found is read by the step's name. */
export interface Find<List> extends StepBase {
  kind: "find";
  register: string;
  /** Condition over the register's columns, with the names of the route behind them; absent for every record. */
  where?: string;
  /** Ids of columns, the first one deciding first; of those alike the oldest first, or the newest where it goes down. */
  sort?: FindSort[];
  take: "first" | "last" | "some";
  /** Of some: up to so many. */
  most?: number;
  /** All columns are fetched; else those that anything reads. */
  columns?: "all";
  /** When there is none, and no way for that: goes on with nothing, or stops. */
  nothing: "on" | "stop";
  /** At most one: the way that is taken when there is none. */
  ways: FindWay<List>[];
}
export interface FindWay<List> {
  id: string;
  steps: List;
}
export interface FindSort {
  column: string;
  descending?: true;
}

/** A search, in the transaction of the command that asked for it. */
export interface FindWork {
  kind: "find";
  register: string;
  where: string | null;
  sort: readonly FindSort[];
  /** From the other end. */
  backwards: boolean;
  most: number;
}
export interface FindResult {
  /** In which they are; absent in what was found before that was told. */
  register?: string;
  ids: string[];
  /** Of the first few, to be named on the trail. */
  titles: string[];
  /** There are more than were taken. */
  more: boolean;
  /** What was asked, clause by clause, with the values it was asked with. */
  asked?: Clause[];
  /** How long it took, in milliseconds. */
  ms?: number;
  /** Nothing was searched: a sample is being followed. */
  sample?: true;
}
export type FindReason =
  | { code: "nothing-found"; data: { step: string; register: string } }
  | { code: "cannot-find"; data: { step: string; message: string } };

import type { Task } from "../engine";

/** What somebody is asked at a step, in words, or beside it. */
export function besideStep(purpose: Task["purpose"], step: string): string {
  switch (purpose) {
    case "decide":
    case "complete":
      return step;
    case "changes":
      return `${step}: changes`;
    case "question":
      return `${step}: a question`;
    case "advice":
      return `${step}: advice`;
  }
}

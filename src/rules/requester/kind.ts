import type { RuleBehaviour } from "@/core/kinds";

/** Whoever made the request. */
export const requester: RuleBehaviour<"requester"> = {
  says: "the requester",
  blank: () => ({ by: "requester" }),
  empty: () => false,
  formulas: (r) => r,
  people: (_, turn) => (turn.requester === null ? [] : [turn.requester]),
  outside: (_, turn) => (turn.outsider ? [turn.outsider] : []),
  problems: () => undefined,
  words: () => "the requester",
};

import type { RuleParts } from "../shapes";

/** People one rule names; more of them are a group. */
export const MOST_NAMED = 12;

/** The rule that means these people; the first may be nobody yet. */
export function personRule(ids: readonly string[]): RuleParts["person"] {
  const [person = "", ...others] = ids;
  return { by: "person", person, ...(others.length > 0 ? { others } : {}) };
}

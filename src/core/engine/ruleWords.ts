import { ruleKind, type Kinds } from "../kinds";
import type { Rule } from "../route";

/** A rule in words; people and steps by their ids unless a name is given for them. */
export const ruleWords = (
  kinds: Kinds,
  rule: Rule,
  names: { person?(id: string): string; step?(id: string): string; inRung?: boolean } = {},
): string =>
  ruleKind(kinds, rule).words(rule, {
    person: (id) => names.person?.(id) ?? id,
    step: (id) => names.step?.(id) ?? id,
    inRung: names.inRung ?? false,
    rule: (r) => ruleWords(kinds, r, names),
  });

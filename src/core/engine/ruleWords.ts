import { ruleKind, type Kinds } from "../kinds";
import type { Rule } from "../route";

/** A rule in words; people by their ids unless a name is given for them. */
export const ruleWords = (
  kinds: Kinds,
  rule: Rule,
  names: { person?(id: string): string; inRung?: boolean } = {},
): string =>
  ruleKind(kinds, rule).words(rule, {
    person: (id) => names.person?.(id) ?? id,
    inRung: names.inRung ?? false,
  });

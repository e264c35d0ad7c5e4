import { lengthInWords } from "../calendar";
import type { Limit, LimitFrom, RuleLength } from "../route";

/** How long a limit is by a rule: "2 working days", "until Needed by, at most 2 working days". */
export function ruleLengthInWords(l: RuleLength): string {
  if ("amount" in l) return lengthInWords(l);
  const formula = l.formula.trim() || "?";
  const said = { count: formula, lasting: formula, day: `until ${formula}`, moment: `until ${formula}` }[
    l.by
  ];
  return `${said}${l.by === "count" ? ` ${l.unit}` : ""}${l.most ? `, at most ${lengthInWords(l.most)}` : ""}`;
}

/** While what it stands still. */
export const limitStillInWords: Record<NonNullable<Limit["still"]>, string> = {
  asker: "while whoever asked for the request is asked something",
  anybody: "while anybody is asked something",
};

/** From when it counts: "from the start of the request". */
export const limitFromInWords = (from: LimitFrom): string =>
  from.by === "start" ? "from the start of the request" : `from ${from.formula.trim() || "?"}`;

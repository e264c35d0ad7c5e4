import { lengthInWords } from "../calendar";
import { ruleInWords } from "../engine";
import type { Step } from "../process";

/** A step as plain words, for prints, lists and people who read with their ears. */
export function stepSentence(s: Step): string {
  switch (s.kind) {
    case "decide":
    case "complete": {
      const within = s.limit ? ` within ${lengthInWords(s.limit.otherwise)}` : "";
      const how = { one: "", first: " (first answer counts)", all: " (all must agree)", share: ` (${s.who.share ?? 50}% must agree)` }[s.who.how];
      return s.kind === "decide" ? `${ruleInWords(s.who.rule)} decides${how}${within}` : `${ruleInWords(s.who.rule)} completes${within}`;
    }
    case "choose": return s.ways.map((w) => (w.when ? `${w.name}: when ${w.when}` : `${w.name}: otherwise`)).join("; ");
    case "together": return `side by side: ${s.branches.map((b) => b.name + (b.when ? ` (when ${b.when})` : "")).join(", ")}`;
    case "write": return `${s.op} ${s.each ? `for each of ${s.each} ` : ""}in ${s.register}${s.must ? `, if ${s.must}` : ""}`;
    case "work out": return `set ${s.set.length} ${s.set.length === 1 ? "value" : "values"}`;
    case "tell": return `tell ${ruleInWords(s.who)}: ${s.subject}`;
    case "jump": return "go on elsewhere";
    case "finish": return `end as "${s.result}"`;
  }
}

import { checkFormula } from "./check";
import type { NamesHere } from "./rename";
import type { Reference } from "./resolve";

/**
 * The first name in a formula that comes to lead to another thing when what is called how changes around it; null where
 * each leads where it did. What leads to nothing any more, or did so far, is a mistake that is shown, and no other meaning.
 */
export function otherMeaning(text: string, before: NamesHere, after: NamesHere): Reference | null {
  const was = checkFormula(text, before.scope, before.type);
  const is = checkFormula(text, after.scope, after.type);
  if (!was.ast || !is.ast) return null;
  const now = new Map(is.reads.references.map((r) => [`${r.from} ${r.name}`, r.target]));
  return (
    was.reads.references.find((r) => {
      const [a, b] = [r.target, now.get(`${r.from} ${r.name}`)];
      if (!b || a.t === "nothing" || b.t === "nothing" || a.t === "unknown" || b.t === "unknown")
        return false;
      if (a.t !== b.t) return true;
      if (a.t === "name") return before.declared(r.name) !== after.declared(r.name);
      if (a.t === "entry" && b.t === "entry") return a.of !== b.of;
      return a.t === "local" && b.t === "local" && a.at !== b.at;
    }) ?? null
  );
}

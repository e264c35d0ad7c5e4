import type { FormulaProblem } from "./problem";
import type { Code, State } from "./run";
import { valueText, type Value } from "./values";

/** Evaluates a part whose coming to nothing the formula itself deals with: its reasons are no reasons any more. */
export function quietly(s: State, of: Code): Value {
  const { notes } = s.run.env;
  const before = notes?.length ?? 0;
  const v = of(s);
  // Whether it is there is just what cannot be said of what is worked out from itself, or was not fetched.
  const stays = (n: FormulaProblem) => n.code === "circle" || n.code === "unread";
  if (notes) notes.splice(before, notes.length - before, ...notes.slice(before).filter(stays));
  return v;
}
/** The outcome of a test; where it has none though all sides are there, they do not go together. */
export function held(
  s: State,
  at: { from: number; to: number },
  outcome: boolean | null,
  ...sides: Value[]
): Value {
  if (outcome === null && s.run.env.notes && !sides.includes(null))
    s.run.note(at, `${sides.map(short).join(" and ")} cannot be compared.`);
  return outcome;
}
/** Leaves the reason where a condition is neither yes nor no, nor empty. */
export function yesOrNo(s: State, at: { from: number; to: number }, ...sides: Value[]): null {
  const odd = sides.find((v) => v !== null && typeof v !== "boolean");
  return odd === undefined ? null : s.run.note(at, `${short(odd)} is neither yes nor no.`);
}
export const short = (v: Value): string => {
  const t = valueText(v);
  return t.length > 30 ? `${t.slice(0, 29)}…` : t;
};

import { childNodes, type Node } from "./ast";
import { checkFormula } from "./check";
import type { Reference } from "./resolve";
import type { Scope, Type } from "./types";

/** Names a formula may read, and which thing each of them is: two names may come to mean one after the other. */
export interface NamesHere {
  scope: Scope;
  /** Tells things apart by what they are and not by what they are called; null where nothing is called so. */
  declared(name: string): string | null;
  /** What the formula must come to, where that is known. */
  type?: Type;
}

export interface Renaming {
  /** What is renamed, as `declared` tells it. */
  id: string;
  /** The line items it is a column of, or null. */
  column: string | null;
  from: string;
  to: string;
}

/** The formula with the name changed; or the place where what it would then mean cannot be told, or is another. */
export type Renamed = { text: string } | { unclear: { from: number; to: number; why: string } };

/**
 * Rewrites every place where a formula reads what is renamed, touching nothing else: spacing and comments of the author
 * stay. Names are resolved before and after; where any of them would lead somewhere else, or cannot be followed before
 * the formula runs, the rename is refused with the place. A formula that cannot be read stays as it is.
 * @param renamed one thing, or several that are renamed together
 */
export function renameInFormula(
  text: string,
  before: NamesHere,
  after: NamesHere,
  renamed: Renaming | readonly Renaming[],
): Renamed {
  const was = checkFormula(text, before.scope, before.type);
  if (!was.ast) return { text };
  const all = Array.isArray(renamed) ? (renamed as readonly Renaming[]) : [renamed as Renaming];
  const meant = (r: Reference, what: Renaming): boolean =>
    r.name === what.from &&
    ((r.target.t === "name" && before.declared(r.name) === what.id) ||
      (r.target.t === "entry" && what.column !== null && r.target.of === `rows ${what.column}`));
  const { references, wholes } = was.reads;
  for (const what of all) {
    // Rows come into a formula by the name of their table only.
    const rows = references.some(
      (r) => r.target.t === "name" && before.declared(r.name) === `field ${what.column}`,
    );
    const bare = before.declared(what.from) === what.id || after.declared(what.to) === what.id;
    const unsure = references.find(
      (r) =>
        (r.name === what.from || r.name === what.to) &&
        r.target.t === "unknown" &&
        r.target.among === undefined &&
        (rows || (r.target.outside && bare)),
    );
    if (unsure)
      return refused(unsure, `what "${unsure.name}" is read from here is known only when the formula runs`);
    const whole = rows ? wholes.find((w) => w.of === "*" || w.of === `rows ${what.column}`) : undefined;
    if (whole)
      return refused(
        whole,
        `"${text.slice(whole.from, whole.to)}" is used whole here, with the names of its columns`,
      );
  }
  const hits = new Map<Reference, string>();
  for (const r of references) {
    const what = all.find((w) => meant(r, w));
    if (what) hits.set(r, what.to);
  }
  const odd = [...hits.keys()].find((r) => text.slice(r.from, r.to) !== r.name);
  if (odd) return refused(odd, `"${odd.name}" is written otherwise here`);
  const next = [...hits].reduceRight((out, [r, to]) => out.slice(0, r.from) + to + out.slice(r.to), text);
  const changed = sameMeaning(was.ast, references, hits, next, before, after);
  return changed ? { unclear: changed } : { text: next };
}

const refused = ({ from, to }: { from: number; to: number }, why: string): Renamed => ({
  unclear: { from, to, why },
});

/** The first place that would not mean what it meant, or null. */
function sameMeaning(
  ast: Node,
  references: readonly Reference[],
  hits: ReadonlyMap<Reference, string>,
  next: string,
  before: NamesHere,
  after: NamesHere,
): { from: number; to: number; why: string } | null {
  const now = checkFormula(next, after.scope, after.type);
  /** A place of the text before, in the text after. */
  const moved = (at: number) =>
    [...hits].reduce((n, [h, to]) => (h.from < at ? n + to.length - h.name.length : n), at);
  const why = (name: string) => `"${name}" would then mean something else`;
  const whole = { from: 0, to: ast.to, why: "it would be read otherwise" };
  if (!now.ast || shapeOf(now.ast) !== shapeOf(ast)) return whole;
  if (now.reads.references.length !== references.length) return whole;
  for (const [i, r] of references.entries()) {
    const s = now.reads.references[i]!;
    if (s.name !== (hits.get(r) ?? r.name) || s.from !== moved(r.from))
      return { ...whole, from: r.from, to: r.to };
    const [a, b] = [r.target, s.target];
    // What nothing was called so far may come to be called so: the formula was a mistake.
    if (a.t === "nothing") continue;
    const same =
      a.t === b.t &&
      (a.t !== "name" || before.declared(r.name) === after.declared(s.name)) &&
      (a.t !== "entry" || b.t !== "entry" || a.of === b.of) &&
      (a.t !== "local" || b.t !== "local" || moved(a.at) === b.at);
    if (!same) return { from: r.from, to: r.to, why: why(s.name) };
  }
  return null;
}

/** A tree without its names and places: two formulas of the same shape differ in nothing else. */
function shapeOf(n: Node): string {
  const parts = childNodes(n).map(shapeOf).join(" ");
  const own = Object.entries(n)
    .filter(([k, v]) => !["from", "to", "name", "fn"].includes(k) && typeof v !== "object")
    // A text may be the name of a column.
    .filter(([k]) => !(n.k === "str" && k === "text"))
    .map(([k, v]) => `${k}=${String(v)}`)
    .join(",");
  return `(${own} ${parts})`;
}

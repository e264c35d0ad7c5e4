import { childNodes, type Node } from "./ast";
import { checkFormula } from "./check";
import type { Reference, WholeUse } from "./resolve";
import type { Scope, Type } from "./types";

/** Names a formula may read, and which thing each of them is: two names may come to mean one after the other. */
export interface NamesHere {
  scope: Scope;
  /** Tells things apart by what they are and not by what they are called; null where nothing is called so. */
  declared(name: string): string | null;
  /** Tells the same of what is read as an entry of `of`, which stands for names around; absent where nothing does. */
  entries?: { of: string; declared(name: string): string | null };
  /** What the formula must come to, where that is known. */
  type?: Type;
  /** What it comes to is taken apart by the names of its entries. */
  intoRows?: boolean;
  /** What it comes to is only gone through, each thing of it read by other formulas that are rewritten too. */
  goneThrough?: boolean;
}

export interface Renaming {
  /** What is renamed, as `declared` tells it. */
  id: string;
  /** What it is an entry of, as `Target` names that (`rows f3`, `record objects`); null for none. */
  entryOf: string | null;
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
  const r = rewriteNames(text, before, after, renamed);
  if ("unclear" in r || !r.was) return r;
  const changed = sameMeaning(r.was.ast, r.was.references, r.was.hits, r.text, before, after);
  return changed ? { unclear: changed } : { text: r.text };
}

interface Rewritten {
  text: string;
  /** What it was, as it was read, with what each name that is renamed is called now; absent where it could not be. */
  was?: { ast: Node; references: readonly Reference[]; hits: ReadonlyMap<Reference, string> };
}

/**
 * The formula with names written anew, not looked at again: what it means by then may hang on others that are rewritten
 * with it, as on what the rounds go over that it stands in.
 */
export function rewriteNames(
  text: string,
  before: NamesHere,
  after: Pick<NamesHere, "declared">,
  renamed: Renaming | readonly Renaming[],
): Rewritten | Extract<Renamed, { unclear: unknown }> {
  const was = checkFormula(text, before.scope, before.type);
  if (!was.ast) return { text };
  const all = Array.isArray(renamed) ? (renamed as readonly Renaming[]) : [renamed as Renaming];
  const meant = (r: Reference, what: Renaming): boolean =>
    r.name === what.from &&
    ((r.target.t === "name" && before.declared(r.name) === what.id) ||
      (r.target.t === "entry" && what.entryOf !== null && r.target.of === what.entryOf) ||
      entryMeant(r, before) === what.id);
  const { references, wholes } = was.reads;
  const { ast } = was;
  for (const what of all) {
    const comesIn = mayComeIn(what, references, before);
    const register = /^record (.*)$/s.exec(what.entryOf ?? "")?.[1];
    const bare = before.declared(what.from) === what.id || after.declared(what.to) === what.id;
    const unsure = references.find(
      (r) =>
        (r.name === what.from || r.name === what.to) &&
        r.target.t === "unknown" &&
        (r.target.among === undefined
          ? comesIn || (r.target.outside && bare)
          : register !== undefined && r.target.among.includes(register)),
    );
    if (unsure)
      return refused(unsure, `what "${unsure.name}" is read from here is known only when the formula runs`);
    // A record that is handed on as it is goes by which it is, whatever its columns are called.
    const handedOn = (w: WholeUse) =>
      (register !== undefined || before.goneThrough === true) &&
      !before.intoRows &&
      w.from <= ast.from &&
      w.to >= ast.to;
    const whole = comesIn
      ? wholes.find((w) => (w.of === "*" || w.of === what.entryOf) && !handedOn(w))
      : undefined;
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
  return { text: next, was: { ast, references, hits } };
}

/** What a name means that is read as an entry of what stands for names around; null for any other. */
const entryMeant = ({ name, target }: Reference, { entries }: NamesHere): string | null =>
  entries && target.t === "entry" && target.of === entries.of ? entries.declared(name) : null;

/** Whether what something is an entry of may come into a formula; rows do by the name of their table only. */
function mayComeIn({ entryOf }: Renaming, references: readonly Reference[], before: NamesHere): boolean {
  const lines = /^rows (.*)$/s.exec(entryOf ?? "")?.[1];
  return lines === undefined
    ? entryOf !== null
    : references.some((r) => r.target.t === "name" && before.declared(r.name) === `field ${lines}`);
}

const refused = (
  { from, to }: { from: number; to: number },
  why: string,
): Extract<Renamed, { unclear: unknown }> => ({
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
      entryMeant(r, before) === entryMeant(s, after) &&
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

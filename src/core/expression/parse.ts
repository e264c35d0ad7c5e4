import { parser as feelParser, trackVariables } from "lezer-feel";
import type { Node } from "./ast";
import { SECTIONS } from "./functions";
import type { FormulaProblem } from "./problem";
import type { Tree } from "@lezer/common";
import { MAX_DEPTH, Refused, TreeReader } from "./readTree";
import type { Scope, Type } from "./types";

export const MAX_FORMULA_LENGTH = 4000;

/** The grammar decides where a spaced name ends from sample data of the same shape. */
function shapeOf(type: Type, depth = 0): unknown {
  if (depth > 4) return null;
  if (type.t === "list") return [shapeOf(type.of, depth + 1)];
  if (type.t === "context")
    return Object.fromEntries(Object.entries(type.fields).map(([k, v]) => [k, shapeOf(v, depth + 1)]));
  return null;
}

/** Our functions whose names hold words of the grammar; it reads such names only when they are told to it. */
const DECLARED = Object.fromEntries(
  Object.keys(SECTIONS.at(-1)!.of)
    .filter((n) => /\b(between|of|in|for|is)\b/.test(n))
    .map((n) => [n, null]),
);

/** Tests that a value is held against (DMN 1.5, unary tests), or a formula. */
export type Dialect = "expression" | "unary";

/** By this name a scope has the value that is tested; what is read against such a scope is unary tests. */
export const INPUT = "?";
const dialectOf = (scope: Scope): Dialect => (Object.hasOwn(scope, INPUT) ? "unary" : "expression");

// Setting up a parser for a set of names costs more than parsing with it.
const parsers = new WeakMap<Scope, Partial<Record<Dialect, ReturnType<typeof feelParser.configure>>>>();
/** The grammar set up for the names in scope; also what an editor colours by. */
export function grammarFor(scope: Scope, dialect: Dialect = dialectOf(scope)) {
  let both = parsers.get(scope);
  if (!both) parsers.set(scope, (both = {}));
  return (both[dialect] ??= feelParser.configure({
    contextTracker: trackVariables({
      ...DECLARED,
      ...Object.fromEntries(
        Object.entries(scope).flatMap(([k, v]) => (k === INPUT ? [] : [[k, shapeOf(v)]])),
      ),
    }),
    top: dialect === "unary" ? "UnaryTests" : "Expression",
  }));
}

/**
 * Text to tree. The names in scope are needed, because names may hold spaces.
 * Never throws: a text that cannot be read gives problems and no tree.
 */
export function parseFormula(
  text: string,
  scope: Scope,
  dialect: Dialect = dialectOf(scope),
): { ast: Node | null; problems: FormulaProblem[] } {
  if (text.length > MAX_FORMULA_LENGTH)
    return {
      ast: null,
      problems: [
        {
          code: "too-long",
          from: MAX_FORMULA_LENGTH,
          to: text.length,
          message: `A formula may have ${MAX_FORMULA_LENGTH} characters; this one has ${text.length}. Move a part of it into a worked-out field.`,
        },
      ],
    };
  if (text.trim() === "")
    return {
      ast: null,
      problems: [{ code: "syntax", from: 0, to: text.length, message: "The formula is empty." }],
    };
  const deep = tooDeep(text);
  if (deep) return { ast: null, problems: [deep] };
  const first = read(text, text, scope, dialect);
  if (first.ast || text.search(RANGE_TYPE) < 0) return first;
  // The grammar knows no `range<…>`. Where a text cannot be read with it, the word is hidden behind one of the
  // same length that the grammar does know, and put back by its place while reading.
  const hidden = text.replace(RANGE_TYPE, (m) => `list ${m.slice(5)}`);
  const second = read(text, hidden, scope, dialect);
  return second.ast ? second : first;
}
const RANGE_TYPE = /\brange(?=\s*<)/g;

/**
 * The package cuts long flat chains off, in fear of trees that are walked by recursion; a formula of 4,000 characters
 * has none that are too long for that.
 */
function parsedWhole(grammar: ReturnType<typeof grammarFor>, text: string): Tree {
  const parse = grammar.startParse(text);
  Object.defineProperty(parse, "bigReductionCount", { get: () => 0, set: () => undefined });
  for (;;) {
    const tree = parse.advance();
    if (tree) return tree;
  }
}

/** Entries a group of values may have; the grammar takes time by their square. */
const MAX_ENTRIES = 200;

/**
 * Where brackets open more than `MAX_DEPTH` deep, or a group of values has too many entries, texts and comments left
 * out; the grammar takes seconds over those.
 */
function tooDeep(text: string): FormulaProblem | null {
  const entries: number[] = [];
  const tooLong = (at: number, message: string): FormulaProblem => ({
    code: "too-long",
    from: at,
    to: at + 1,
    message,
  });
  for (const m of text.matchAll(/"(?:\\.|[^"\\])*"?|\/\/[^\n]*|\/\*[^]*?(?:\*\/|$)|[([{]|[)\]}]|,/g)) {
    if (/^[([{]$/.test(m[0])) {
      entries.push(m[0] === "{" ? 1 : -Infinity);
      if (entries.length > MAX_DEPTH)
        return tooLong(m.index, `A formula may be nested ${MAX_DEPTH} deep; this one goes deeper.`);
    } else if (/^[)\]}]$/.test(m[0])) entries.pop();
    else if (m[0] === "," && entries.length > 0 && ++entries[entries.length - 1]! > MAX_ENTRIES)
      return tooLong(m.index, `A group of values may have ${MAX_ENTRIES} entries; this one has more.`);
  }
  return null;
}

function read(
  text: string,
  hidden: string,
  scope: Scope,
  dialect: Dialect,
): { ast: Node | null; problems: FormulaProblem[] } {
  try {
    const top = parsedWhole(grammarFor(scope, dialect), hidden).topNode;
    const reader = new TreeReader(text);
    reader.findError(top);
    let inner = top.firstChild;
    while (inner && /Comment$/.test(inner.name)) inner = inner.nextSibling;
    if (!inner)
      return {
        ast: null,
        problems: [{ code: "syntax", from: 0, to: text.length, message: "The formula is empty." }],
      };
    return { ast: dialect === "unary" ? reader.unary(top) : reader.read(inner, 0), problems: [] };
  } catch (e) {
    if (e instanceof Refused) return { ast: null, problems: [e.problem] };
    throw e;
  }
}

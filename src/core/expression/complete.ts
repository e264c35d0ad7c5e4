import { checkFormula } from "./check";
import { SECTIONS } from "./functions";
import { namesAt } from "./namesAt";
import type { Names } from "./run";
import { saidValue } from "./trace";
import { fits, typeInWords, type Scope, type Type } from "./types";
import type { Value } from "./values";
import { isContext } from "./values";

/** Something that can stand where the caret is. */
export interface Completion {
  label: string;
  kind: "field" | "part" | "function" | "value" | "word";
  /** Its kind and the sample's value, or the signature. */
  detail: string;
  /** What is written; `caret` places back from its end is where typing goes on. */
  insert: string;
  caret: number;
  /** Greater stands first: what fits the kind wanted at this place. */
  rank: number;
}
export interface Completions {
  /** What is replaced: from here to the caret. */
  from: number;
  options: Completion[];
}

const WORDS = /^(?:and|or|not|if|then|else|in|between|return|satisfies|for|some|every|instance of)\s+/;
const MAX_OPTIONS = 80;

/**
 * What can be written at a place of a formula, from the names in scope and their types; what fits the type wanted
 * there comes first. Works on texts that are not whole yet.
 */
export function completionsAt(
  text: string,
  caret: number,
  scope: Scope,
  wanted: Type | null,
  names: Names | null,
): Completions {
  const before = text.slice(0, caret);
  const none: Completions = { from: caret, options: [] };
  if (insideText(before)) return quotedOptions(before, scope) ?? none;
  const word = wordBefore(before);
  const ahead = before.slice(0, before.length - word.length);
  const from = caret - word.length;
  if (/\.\s*$/.test(ahead)) {
    const operand = ahead.replace(/\.\s*$/, "");
    const base = operandBefore(operand);
    if (base === "") return none;
    const local = namesAt(operand.slice(0, operand.trimEnd().length - base.length), scope);
    const type = checkFormula(base, local).type;
    const one = type.t === "list" ? type.of : type;
    const value = names ? valueOf(base, names) : undefined;
    return { from, options: matching(partsOf(one, value), word) };
  }
  const local = namesAt(ahead, scope);
  const want = wantedAt(ahead, local, wanted);
  const fields = Object.entries(local)
    .filter(([n]) => n !== "?")
    .map(([name, type]): Completion => ({
      label: name,
      kind: "field",
      insert: name,
      caret: 0,
      detail: detail(type, Object.hasOwn(scope, name) ? names?.get(name) : undefined),
      rank: want ? rankFor(type, want) : 1,
    }));
  return { from, options: matching([...values(want), ...fields, ...functions(want)], word) };
}

function rankFor(type: Type, want: Type): number {
  if (type.t !== "any" && fits(type, want)) return 3;
  return leadsTo(type, want) ? 2 : 1;
}

const detail = (type: Type, value: Value | undefined) =>
  value === undefined || (typeof value === "object" && isContext(value) && !value.has("id"))
    ? typeInWords(type)
    : `${typeInWords(type)} · ${saidValue(value)}`;
/** A value of this type is on the way to the wanted one: a number can be compared, a record has parts. */
const leadsTo = (type: Type, want: Type): boolean =>
  (want.t === "yesno" && type.t !== "list") ||
  (type.t === "context" && Object.values(type.fields).some((t) => fits(t, want))) ||
  (want.t === "number" && type.t === "list");

function matching(all: Completion[], word: string): Completion[] {
  const w = word.toLowerCase();
  const score = (c: Completion) => {
    if (c.label.toLowerCase().startsWith(w)) return 10;
    if (c.label.toLowerCase().includes(` ${w}`)) return 5;
    if (c.label.toLowerCase().includes(w) && w.length > 1) return 2;
    if (w === "") return 1;
    return -1;
  };
  return all
    .map((c) => ({ c, s: score(c) }))
    .filter((x) => x.s > 0)
    .sort((a, b) => b.s + b.c.rank * 2 - a.s - a.c.rank * 2 || a.c.label.localeCompare(b.c.label))
    .slice(0, MAX_OPTIONS)
    .map((x) => x.c);
}

const insideText = (before: string): boolean =>
  (before.replace(/\\./g, "").match(/"/g)?.length ?? 0) % 2 === 1;

/** Inside quotes behind a comparison with a choice: its options. */
function quotedOptions(before: string, scope: Scope): Completions | null {
  const open = before.lastIndexOf('"');
  const left = /(?:=|!=|in\s*\(?|,)\s*$/.exec(before.slice(0, open));
  if (!left) return null;
  const type = wantedAt(before.slice(0, open), namesAt(before.slice(0, open), scope), null);
  if (type?.t !== "text" || !type.options) return null;
  const word = before.slice(open + 1);
  return { from: open, options: matching(values(type), word).map((c) => ({ ...c, rank: 5 })) };
}

/** The name being typed: letters back to the nearest sign, without the words of the language before it. */
function wordBefore(before: string): string {
  let word = (/[\p{L}_][\p{L}\p{N}_ ]*$/u.exec(before)?.[0] ?? "").replace(/^\s+/, "");
  for (let cut = WORDS.exec(word); cut; cut = WORDS.exec(word)) word = word.slice(cut[0].length);
  // `Total and Urg`: the last word of the language inside starts a new name.
  const inner = /^.*\b(?:and|or|then|else|in|return|satisfies|between)\s+([^]*)$/.exec(word);
  return inner ? inner[1]! : word;
}

/** The operand that ends here: a name or path, with its brackets. */
function operandBefore(text: string): string {
  let i = text.length;
  let depth = 0;
  while (i > 0) {
    const c = text[i - 1]!;
    if (c === ")" || c === "]") depth++;
    else if (c === "(" || c === "[") {
      if (depth === 0) break;
      depth--;
    } else if (depth === 0 && !/[\p{L}\p{N}_. ]/u.test(c)) break;
    i--;
  }
  let out = text.slice(i).trimStart();
  for (let cut = WORDS.exec(out); cut; cut = WORDS.exec(out)) out = out.slice(cut[0].length);
  const inner =
    depth === 0 ? /^[^[(]*\b(?:and|or|then|else|in|return|satisfies|between)\s+([^]*)$/.exec(out) : null;
  return (inner ? inner[1]! : out).trim();
}

/** The kind of value wanted behind this text: the other side of a comparison, a function's input, a condition. */
function wantedAt(ahead: string, scope: Scope, whole: Type | null): Type | null {
  const t = ahead.trimEnd();
  const compared =
    /^([^]*?)(?:<=|>=|!=|=|<|>|\bin\s*\(|\bin|\bbetween)$/.exec(t) ?? /^([^]*\bin\s*)\([^()]*,$/.exec(t);
  if (compared) {
    const left = operandBefore(compared[1]!.replace(/\bin\s*$/, "").trimEnd());
    const type = left ? checkFormula(left, scope).type : null;
    return type && type.t !== "any" ? type : null;
  }
  if (t === "" || /\b(?:then|else)$/.test(t)) return whole;
  if (/\b(?:and|or|if|satisfies)$/.test(t)) return { t: "yesno" };
  if (/(?:\*|\/|-)$/.test(t)) return { t: "number" };
  return null;
}

function values(want: Type | null): Completion[] {
  if (want?.t === "text" && want.options)
    return want.options.map((o) => ({
      label: `"${o}"`,
      kind: "value",
      detail: "one of its choices",
      insert: JSON.stringify(o),
      caret: 0,
      rank: 5,
    }));
  if (want?.t === "yesno")
    return ["true", "false"].map((w) => ({
      label: w,
      kind: "word",
      detail: w === "true" ? "yes" : "no",
      insert: w,
      caret: 0,
      rank: 0,
    }));
  return [];
}

const NUMBER: Type = { t: "number" };
const DAY_PARTS = { year: NUMBER, month: NUMBER, day: NUMBER };
/** The parts of a plain value that are worth offering. */
function usualParts(type: Type): Record<string, Type> {
  if (type.t === "date") return { ...DAY_PARTS, weekday: NUMBER };
  if (type.t === "datetime") return { ...DAY_PARTS, hour: NUMBER, minute: NUMBER };
  if (type.t !== "duration") return {};
  return type.kind === "months"
    ? { years: NUMBER, months: NUMBER }
    : { days: NUMBER, hours: NUMBER, minutes: NUMBER };
}

function partsOf(type: Type, value: Value | undefined): Completion[] {
  const fields = type.t === "context" ? type.fields : usualParts(type);
  return Object.entries(fields).map(([name, t]) => ({
    label: name,
    kind: "part",
    insert: name,
    caret: 0,
    detail: detail(
      t,
      value !== undefined && isContext(value ?? null)
        ? ((value as ReadonlyMap<string, Value>).get(name) ?? undefined)
        : undefined,
    ),
    rank: name === "id" ? 0 : 2,
  }));
}

function valueOf(base: string, names: Names): Value | undefined {
  return base.split(".").reduce<Value | undefined>((v, part, i) => {
    if (i === 0) return names.get(part.trim());
    if (isContext(v ?? null)) return (v as ReadonlyMap<string, Value>).get(part.trim());
    return undefined;
  }, undefined);
}

const functionList: { completion: Completion; results: Type[] }[] = SECTIONS.flatMap((s) =>
  Object.entries(s.of).map(([name, overloads]) => {
    const [first] = overloads;
    const result = typeof first!.result === "function" ? null : first!.result;
    return {
      results: overloads.flatMap((o) => (typeof o.result === "function" ? [] : [o.result])),
      completion: {
        label: name,
        kind: "function" as const,
        insert: `${name}()`,
        caret: first!.params.length === 0 ? 0 : 1,
        rank: 0,
        detail: `(${signature(name)})${result ? ` → ${typeInWords(result)}` : ""}`,
      },
    };
  }),
);
/** Inputs of the first way to call a function. */
export function signature(name: string): string {
  const o = SECTIONS.flatMap((s) => Object.entries(s.of)).find(([n]) => n === name)?.[1][0];
  return o
    ? o.params
        .map((p, i) => `${p.name}${p.optional ? "?" : ""}${o.many && i === o.params.length - 1 ? " …" : ""}`)
        .join(", ")
    : "";
}
const functions = (want: Type | null): Completion[] =>
  functionList.map(({ completion, results }) => ({
    ...completion,
    rank: want && results.some((r) => fits(r, want) && r.t !== "any") ? 2 : 0,
  }));

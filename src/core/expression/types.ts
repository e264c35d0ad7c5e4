/** The types a formula can have. Every type also admits null: an empty field is an ordinary thing. */
export type Type =
  | { t: "any" | "null" | "number" | "yesno" | "date" | "time" | "datetime" }
  /** `options` where only these can be chosen. */
  | { t: "text"; options?: readonly string[] }
  /** Without a kind: either of the two, as `duration(text)` gives. */
  | { t: "duration"; kind?: "days" | "months" }
  | { t: "list"; of: Type }
  | { t: "range"; of: Type }
  | { t: "function"; params: readonly Type[]; result: Type }
  /**
   * `what` names a person, a file or the register a record comes from; a plain context has none. `rows` is the id of
   * the line items whose row this is. An `open` one may have other entries than these, or lack some of
   * them; where it is a record of any of several registers those are `among`, and it has no other entries than these.
   */
  | {
      t: "context";
      fields: Readonly<Record<string, Type>>;
      what?: string;
      rows?: string;
      open?: true;
      among?: readonly string[];
    };
export type ContextType = Extract<Type, { t: "context" }>;

/** The names a formula may use, with their types. */
export type Scope = Readonly<Record<string, Type>>;

export const ANY: Type = { t: "any" };
export const NULL: Type = { t: "null" };
export const TEXT: Type = { t: "text" };
export const NUMBER: Type = { t: "number" };
export const YESNO: Type = { t: "yesno" };
export const DATE: Type = { t: "date" };
export const TIME: Type = { t: "time" };
export const DATETIME: Type = { t: "datetime" };
export const DURATION: Type = { t: "duration" };
export const DAYS: Type = { t: "duration", kind: "days" };
export const MONTHS: Type = { t: "duration", kind: "months" };
export const listOf = (of: Type): Type => ({ t: "list", of });
export const rangeOf = (of: Type): Type => ({ t: "range", of });
export const context = (fields: Record<string, Type>, what?: string): Type =>
  what === undefined ? { t: "context", fields } : { t: "context", fields, what };

export const PERSON: Type = context(
  { id: TEXT, name: TEXT, email: TEXT, "job title": TEXT, department: TEXT, site: TEXT },
  "person",
);

/** A file that was added to a form: `size` in bytes, `type` as a media type (RFC 6838). */
export const FILE: Type = context(
  { id: TEXT, name: TEXT, size: NUMBER, type: TEXT, added: DATETIME },
  "file",
);

/** A request somebody made, by its number; nothing of what was filled in, nor of what it is about. */
export const REQUEST: Type = context(
  {
    number: TEXT,
    name: TEXT,
    process: TEXT,
    status: { t: "text", options: ["under way", "finished", "withdrawn", "cancelled", "stuck"] },
    result: TEXT,
    started: DATETIME,
    ended: DATETIME,
  },
  "request",
);

const WORDS: Record<string, string> = {
  any: "a value",
  null: "nothing",
  text: "text",
  number: "a number",
  yesno: "yes or no",
  date: "a date",
  time: "a time",
  datetime: "a date and time",
  function: "a function",
};

/** A type as a person would say it: "a number", "a list of text", "a record of Stores". */
export function typeInWords(type: Type): string {
  if (type.t === "list")
    return type.of.t === "any" || type.of.t === "null"
      ? "a list"
      : `a list of ${typeInWords(type.of).replace(/^an? /, "")}`;
  if (type.t === "range") return "a range";
  if (type.t === "duration") return type.kind === "months" ? "a length in months" : "a length of time";
  if (type.t === "context") {
    if (type.what === "person" || type.what === "file" || type.what === "request") return `a ${type.what}`;
    if (type.among) return `a record of ${type.among.join(" or ")}`;
    return type.what ? `a record of ${type.what}` : "a group of values";
  }
  return WORDS[type.t] ?? type.t;
}

/** Whether a value of type `from` may stand where `to` is wanted. */
export function fits(from: Type, to: Type): boolean {
  if (from.t === "any" || to.t === "any" || from.t === "null") return true;
  if (from.t !== to.t) return false;
  if (from.t === "list" && to.t === "list") return fits(from.of, to.of);
  if (from.t === "range" && to.t === "range") return fits(from.of, to.of);
  if (from.t === "duration" && to.t === "duration") return !from.kind || !to.kind || from.kind === to.kind;
  if (from.t === "context" && to.t === "context") {
    // One that may be of several registers fits only where each of them does.
    if (to.among) return (from.among ?? [from.what ?? ""]).every((r) => to.among!.includes(r));
    return to.what === undefined || from.what === to.what;
  }
  return true;
}

const MAX_JOIN_DEPTH = 6;

/** The type two branches have in common. */
export function joinTypes(a: Type, b: Type, depth = 0): Type {
  // Types that hold one another twice at each level are small and endless to walk.
  if (a === b) return a;
  if (depth > MAX_JOIN_DEPTH) return ANY;
  if (a.t === "null") return b;
  if (b.t === "null") return a;
  if (a.t === "text" && b.t === "text")
    return a.options && b.options && a.options.join("\n") === b.options.join("\n") ? a : TEXT;
  if (a.t === "duration" && b.t === "duration" && a.kind !== b.kind) return DURATION;
  if (a.t === "context" && b.t === "context") return joinContexts(a, b, depth + 1);
  if (a.t === "list" && b.t === "list") return listOf(joinTypes(a.of, b.of, depth + 1));
  if (fits(a, b) && a.t !== "any") return b;
  return fits(b, a) ? a : ANY;
}

/** Where two are not the same, what only one of them has may be there or not, and whose entry it is is not known. */
function joinContexts(a: ContextType, b: ContextType, depth: number): Type {
  const names = Object.keys(a.fields);
  const alike =
    names.length === Object.keys(b.fields).length && names.every((n) => Object.hasOwn(b.fields, n));
  if (alike && a.what === b.what && a.rows === b.rows && a.open === b.open && a.fields === b.fields) return a;
  const both = names.filter((n) => Object.hasOwn(b.fields, n));
  const fields = Object.fromEntries(both.map((n) => [n, joinTypes(a.fields[n]!, b.fields[n]!, depth)]));
  const what = a.what === b.what && a.what !== undefined ? { what: a.what } : {};
  const rows = a.rows === b.rows && a.rows !== undefined ? { rows: a.rows } : {};
  const certain = alike && a.what === b.what && a.rows === b.rows && !a.open && !b.open;
  return { t: "context", fields, ...what, ...rows, ...(certain ? {} : { open: true as const }) };
}

/** The name by which a record that may be of several registers says of which it is. */
export const OF_REGISTER = "register";

/**
 * A record of any of several registers: what only some of them have is empty in the others, and `register` says which
 * it is. It is open, because whose entry a name leads to is known only when a formula runs.
 */
export function recordOfAny(each: readonly { register: string; type: Type }[]): Type {
  const among = each.map((e) => e.register);
  const fields: Record<string, Type> = {};
  for (const { type } of each)
    for (const [name, t] of Object.entries(type.t === "context" ? type.fields : {}))
      fields[name] = Object.hasOwn(fields, name) ? either(fields[name]!, t) : t;
  if (!Object.hasOwn(fields, OF_REGISTER)) fields[OF_REGISTER] = { t: "text", options: among };
  return { t: "context", fields, open: true, among };
}

/** Choices of one or of the other are choices of both together. */
function either(a: Type, b: Type): Type {
  if (a.t !== "text" || b.t !== "text" || !a.options || !b.options) return joinTypes(a, b);
  return { t: "text", options: [...new Set([...a.options, ...b.options])] };
}

/** With a capital, for the beginning of a sentence. */
export const cap = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

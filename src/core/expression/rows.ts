import type { CompareOp, Node } from "./ast";
import { nearest } from "./nearest";
import { logicText, readLogic, writeLogic, type Logic } from "./ownLogic";
import { parseFormula } from "./parse";
import { textLiteral } from "./print";
import { typeInScopes } from "./check";
import type { Scope, Type } from "./types";
import { isDate, isDateTime, isTime } from "./moments";
import { atLiteral } from "./operators";

/** What one row of a condition says of a value, in plain words; which there are depends on the kind of value. */
export const RELATIONS = {
  "=": "is",
  "!=": "is not",
  ">": "is more than",
  ">=": "is at least",
  "<": "is less than",
  "<=": "is at most",
  empty: "is empty",
  "not empty": "is filled in",
  yes: "is yes",
  no: "is no",
  contains: "contains",
  "starts with": "starts with",
  includes: "includes",
  "leaves out": "does not include",
  after: "is after",
  from: "is on or after",
  before: "is before",
  until: "is on or before",
} as const;
export type Relation = keyof typeof RELATIONS;

/** One row: "Total · is more than · 500". `right` is a plain value as typed, or another name. */
export interface ConditionRow {
  /** A name, or a path of names: `Store.risk grade`. */
  left: string;
  relation: Relation;
  right: string;
  /** The right side is itself a name. */
  name?: true;
}
export interface ConditionRows {
  join: "all" | "any" | "own";
  rows: ConditionRow[];
  /** Of "own": how they go together, as it is typed ("1 and (2 or 3)"). */
  logic?: string;
}

/** What "not" makes of a row. */
const OPPOSITE: Partial<Record<Relation, Relation>> = {
  yes: "no",
  empty: "not empty",
  includes: "leaves out",
};
const ORDER: Record<string, Relation> = { ">": "after", ">=": "from", "<": "before", "<=": "until" };
const BACK: Partial<Record<Relation, CompareOp>> = { after: ">", from: ">=", before: "<", until: "<=" };

/** Types whose values come before and after each other in time: what one looks like, and how it is written after an @. */
const IN_TIME = {
  date: { is: isDate, says: "a date, for example 2026-03-01", written: (text: string) => text },
  time: {
    is: isTime,
    says: "a time, for example 14:30",
    written: (text: string) => (/^\d\d:\d\d$/.test(text) ? `${text}:00` : text),
  },
  datetime: {
    is: isDateTime,
    says: "a date and time, for example 2026-03-01T14:30",
    written: (text: string) => (/T\d\d:\d\d$/.test(text) ? `${text}:00` : text),
  },
} as const;
const inTime = (type: Type) =>
  Object.hasOwn(IN_TIME, type.t) ? IN_TIME[type.t as keyof typeof IN_TIME] : null;
/** As it is typed: a clock without its seconds where it has none. */
const typedIn = (type: Type, text: string): string =>
  type.t === "date" ? text : text.replace(/((?:^|T)\d\d:\d\d):00$/, "$1");

export function relationsFor(type: Type): readonly Relation[] {
  switch (type.t) {
    case "yesno":
      return ["yes", "no", "empty", "not empty"];
    case "number":
      return ["=", "!=", ">", ">=", "<", "<=", "empty", "not empty"];
    case "date":
    case "time":
    case "datetime":
      return ["=", "!=", "after", "from", "before", "until", "empty", "not empty"];
    case "text":
      return type.options
        ? ["=", "!=", "empty", "not empty"]
        : ["=", "!=", "contains", "starts with", "empty", "not empty"];
    case "list":
      return type.of.t === "text" ? ["includes", "leaves out", "empty", "not empty"] : ["empty", "not empty"];
    default:
      return ["=", "!=", "empty", "not empty"];
  }
}
/** Relations that need nothing on their right. */
export const standsAlone = (r: Relation): boolean =>
  r === "yes" || r === "no" || r === "empty" || r === "not empty";

/** Names that a row can start from: fields, and the parts of people and records. */
export function rowNames(scope: Scope): { path: string; type: Type }[] {
  return Object.entries(scope).flatMap(([name, type]) => [
    { path: name, type },
    ...(type.t === "context"
      ? Object.entries(type.fields)
          .filter(([k, t]) => k !== "id" && t.t !== "context" && (t.t !== "list" || t.of.t === "text"))
          .map(([k, t]) => ({ path: `${name}.${k}`, type: t }))
      : []),
  ]);
}

/** A formula as rows, or null when it is too rich for them and stays text. An empty formula is no rows. */
export function rowsOf(text: string, scope: Scope): ConditionRows | null {
  if (text.trim() === "") return { join: "all", rows: [] };
  const { ast } = parseFormula(text, scope);
  if (!ast) return null;
  const join = ast.k === "or" ? "or" : "and";
  const parts = flat(ast, join);
  const rows = parts.map((p) => row(p, text, scope));
  if (rows.every((r) => r !== null)) return { join: join === "or" ? "any" : "all", rows };
  return ownRows(ast, text, scope);
}

/** Rows that go together otherwise than all or any; the same row twice is one. */
function ownRows(ast: Node, text: string, scope: Scope): ConditionRows | null {
  const rows: ConditionRow[] = [];
  const read = (n: Node): Logic | null => {
    const one = row(n, text, scope);
    if (one) {
      const same = rows.findIndex((r) => JSON.stringify(r) === JSON.stringify(one));
      return { k: "row", row: same >= 0 ? same + 1 : rows.push(one) };
    }
    if (n.k === "and" || n.k === "or") {
      const of = flat(n, n.k).map(read);
      return of.every((x) => x !== null) ? { k: n.k, of } : null;
    }
    const inner =
      n.k === "call" && n.fn === "not" && n.args.length === 1 && !n.names ? read(n.args[0]!) : null;
    return inner && { k: "not", of: inner };
  };
  const logic = read(ast);
  return logic && { join: "own", rows, logic: logicText(logic) };
}

const flat = (n: Node, k: "and" | "or"): Node[] =>
  n.k === k ? [...flat(n.left, k), ...flat(n.right, k)] : [n];

function pathText(n: Node): string | null {
  if (n.k === "name") return n.name;
  const of = n.k === "path" ? pathText(n.of) : null;
  return of === null || n.k !== "path" ? null : `${of}.${n.name}`;
}

function row(n: Node, text: string, scope: Scope): ConditionRow | null {
  const known = (x: Node): { path: string; type: Type } | null => {
    const path = pathText(x);
    const type = path === null ? null : typeInScopes(x, text, scope);
    return path !== null && type && type.t !== "any" ? { path, type } : null;
  };
  const bare = known(n);
  if (bare) return bare.type.t === "yesno" ? { left: bare.path, relation: "yes", right: "" } : null;
  if (n.k === "call" && !n.names) {
    if (n.fn === "not" && n.args.length === 1) {
      const inner = row(n.args[0]!, text, scope);
      const opposite = inner && OPPOSITE[inner.relation];
      return opposite ? { ...inner, relation: opposite } : null;
    }
    const of = n.args[0] && known(n.args[0]);
    if (!of) return null;
    if (n.fn === "is empty" && n.args.length === 1) return { left: of.path, relation: "empty", right: "" };
    const second = n.args.length === 2 ? n.args[1] : undefined;
    if (n.fn === "list contains" && of.type.t === "list" && of.type.of.t === "text" && second) {
      const other = known(second);
      if (other) return { left: of.path, relation: "includes", right: other.path, name: true };
      return second.k === "str" ? { left: of.path, relation: "includes", right: second.text } : null;
    }
    if ((n.fn === "contains" || n.fn === "starts with") && second?.k === "str")
      return { left: of.path, relation: n.fn, right: second.text };
    return null;
  }
  if (n.k !== "cmp") return null;
  const left = known(n.left);
  if (!left) return null;
  if (n.right.k === "null" && (n.op === "=" || n.op === "!="))
    return { left: left.path, relation: n.op === "=" ? "empty" : "not empty", right: "" };
  if (n.right.k === "bool" && left.type.t === "yesno" && (n.op === "=" || n.op === "!="))
    return { left: left.path, relation: n.right.value === (n.op === "=") ? "yes" : "no", right: "" };
  const time = inTime(left.type);
  const relation = time && ORDER[n.op] ? ORDER[n.op]! : (n.op as Relation);
  if (!relationsFor(left.type).includes(relation)) return null;
  const other = known(n.right);
  if (other) return { left: left.path, relation, right: other.path, name: true };
  switch (n.right.k) {
    case "num":
      return left.type.t === "number" ? { left: left.path, relation, right: n.right.text } : null;
    case "neg":
      return left.type.t === "number" && n.right.of.k === "num"
        ? { left: left.path, relation, right: `-${n.right.of.text}` }
        : null;
    case "str":
      return left.type.t === "text" ? { left: left.path, relation, right: n.right.text } : null;
    case "at":
      return time?.is(atLiteral(n.right.text))
        ? { left: left.path, relation, right: typedIn(left.type, n.right.text) }
        : null;
    case "call":
      return left.type.t === "date" &&
        n.right.fn === "date" &&
        n.right.args.length === 1 &&
        n.right.args[0]!.k === "str"
        ? { left: left.path, relation, right: n.right.args[0]!.text }
        : null;
    default:
      return null;
  }
}

/**
 * Rows as a formula. A row not filled in yet is left out, but for rows that go together in one's own way: those say
 * nothing before they are whole.
 * @returns null where it cannot be said yet
 */
export function formulaOf({ join, rows, logic = "" }: ConditionRows, scope: Scope): string | null {
  if (join === "own") {
    const read = readLogic(logic, rows.length);
    const texts = rows.map((r) => rowText(r, scope));
    if ("mistake" in read || texts.includes(null)) return null;
    return writeLogic(
      read.logic,
      (n) => texts[n - 1]!,
      (inner) => `not(${inner})`,
    );
  }
  return rows
    .map((r) => rowText(r, scope))
    .filter((t) => t !== null)
    .join(join === "all" ? " and " : " or ");
}

/** Whether a row says something whole, or what it still lacks in a sentence. */
export function rowMistake(r: ConditionRow, scope: Scope): string | null {
  const type = typeAt(r.left, scope);
  if (!type)
    return r.left === ""
      ? "Choose what the row is about."
      : `Nothing here is called "${r.left}"${hint(r.left, scope)}.`;
  if (standsAlone(r.relation) || r.name) return null;
  if (type.t === "number" && !/^-?\d+(\.\d+)?$/.test(r.right.trim()))
    return `${r.left} is held against a number, for example 500.`;
  const time = inTime(type);
  if (time && !time.is(atLiteral(time.written(r.right.trim()))))
    return `${r.left} is held against ${time.says}.`;
  return null;
}
const hint = (name: string, scope: Scope) => {
  const near = nearest(name, Object.keys(scope));
  return near ? `; did you mean "${near}"?` : "";
};

const fieldsOf = (type: Type | null): Scope | null => (type?.t === "context" ? type.fields : null);
export function typeAt(path: string, scope: Scope): Type | null {
  let type: Type | null = null;
  for (const [i, part] of path.split(".").entries()) {
    const from: Scope | null = i === 0 ? scope : fieldsOf(type);
    if (!from || !Object.hasOwn(from, part)) return null;
    type = from[part]!;
  }
  return type;
}

function literal(text: string, type: Type): string {
  if (type.t === "number") return text.trim();
  const time = inTime(type);
  return time ? `@"${time.written(text.trim())}"` : textLiteral(text);
}

const isListed = (r: ConditionRow, scope: Scope): boolean => typeAt(r.left, scope)?.t === "list";
const holds = (r: ConditionRow): string =>
  `list contains(${r.left}, ${r.name ? r.right : textLiteral(r.right)})`;

function rowText(r: ConditionRow, scope: Scope): string | null {
  if (rowMistake(r, scope)) return null;
  switch (r.relation) {
    case "yes":
      return r.left;
    case "no":
      return `not(${r.left})`;
    // A list of none is a list, and not nothing.
    case "empty":
      return isListed(r, scope) ? `is empty(${r.left})` : `${r.left} = null`;
    case "not empty":
      return isListed(r, scope) ? `not(is empty(${r.left}))` : `${r.left} != null`;
    case "includes":
      return holds(r);
    case "leaves out":
      return `not(${holds(r)})`;
    case "contains":
    case "starts with":
      return `${r.relation}(${r.left}, ${textLiteral(r.right)})`;
    default: {
      const type = typeAt(r.left, scope)!;
      const op = BACK[r.relation] ?? r.relation;
      return `${r.left} ${op} ${r.name ? r.right : literal(r.right, type)}`;
    }
  }
}

import { arithmeticType } from "./checkArithmetic";
import { callType } from "./checkCall";
import { checkChoice, checkComparable, checkTest } from "./checkComparison";
import { entryType, nameType, pathType } from "./checkNames";
import type { Checking } from "./checking";
import type { Iter, Node, TypeName } from "./ast";
import { isDaysTime } from "./durations";
import { isTypeName } from "./instance";
import { itemLevel, localLevel, topLevel, type Levels } from "./levels";
import { atLiteral } from "./operators";
import { parseFormula, type Dialect } from "./parse";
import type { FormulaProblem } from "./problem";
import { ReadsCollector, type Reads } from "./resolve";
import { named } from "./typeRules";
import {
  ANY,
  DATE,
  DATETIME,
  DAYS,
  fits,
  joinTypes,
  listOf,
  MONTHS,
  NULL,
  NUMBER,
  TEXT,
  TIME,
  typeInWords,
  YESNO,
  type Scope,
  type Type,
} from "./types";
import { isDate, isDateTime, isTime } from "./values";

export interface CheckedFormula {
  ast: Node | null;
  type: Type;
  problems: FormulaProblem[];
  /** What it reads, each name with what it leads to. */
  reads: Reads;
}
const NO_READS: Reads = { references: [], wholes: [] };

/**
 * Parses a formula, finds its type against the names in scope and what each of its names leads to: the one place
 * where names are resolved, for problems, renaming, hiding, circles and searching alike.
 * @param wanted when given, a result that does not fit is a problem too
 * @param dialect as the scope has it unless said: against one with an `INPUT`, unary tests
 */
export function checkFormula(text: string, scope: Scope, wanted?: Type, dialect?: Dialect): CheckedFormula {
  const { ast, problems } = parseFormula(text, scope, dialect);
  if (!ast) return { ast, type: ANY, problems, reads: NO_READS };
  const checker = new Checker(text);
  const type = checker.typeOf(ast, topLevel(scope));
  // Where a number or a date is wanted, nothing whole comes out.
  if (!wanted || mayBeGroup(wanted)) checker.reads.whole(ast, type);
  const odd = wanted && checker.problems.length === 0 ? misfit(ast, type, wanted, checker, scope) : null;
  if (odd && wanted) {
    const shown = text.slice(odd.at.from, odd.at.to);
    checker.say(
      odd.at,
      "wrong-type",
      `This comes to ${typeInWords(odd.type)}; ${typeInWords(wanted)} is needed here.`,
      wanted.t === "text" ? `string(${shown})` : undefined,
    );
  }
  return { ast, type, problems: checker.problems, reads: checker.reads.all() };
}

const mayBeGroup = (t: Type): boolean =>
  t.t === "any" ||
  t.t === "function" ||
  t.t === "context" ||
  ((t.t === "list" || t.t === "range") && mayBeGroup(t.of));

/** The part that does not come to what is wanted: of an `if`, either of its sides. */
function misfit(
  n: Node,
  type: Type,
  wanted: Type,
  checker: Checker,
  scope: Scope,
): { at: { from: number; to: number }; type: Type } | null {
  // One item stands for a list of one (DMN 1.5, 10.3.2.9.4).
  const right = fits(type, wanted) || (wanted.t === "list" && type.t !== "list" && fits(type, wanted.of));
  if (n.k !== "if") return right ? null : { at: n, type };
  const side = (x: Node) => misfit(x, checker.quietly(x, topLevel(scope)), wanted, checker, scope);
  return side(n.then) ?? side(n.else);
}

/** The type of a part of a formula that was checked before. */
export const typeInScopes = (n: Node, text: string, scope: Scope): Type =>
  new Checker(text).typeOf(n, topLevel(scope));

/** What is looked through for a name that stands in a formula, innermost first; null where it stands nowhere in it. */
export function levelsAt(text: string, scope: Scope, name: string): Levels | null {
  const { ast } = parseFormula(text, scope);
  if (!ast) return null;
  const checker = new Checker(text);
  checker.watched = { name, levels: null };
  checker.typeOf(ast, topLevel(scope));
  return checker.watched.levels;
}

class Checker implements Checking {
  readonly problems: FormulaProblem[] = [];
  readonly reads = new ReadsCollector();
  functionsWelcome = false;
  watched?: { name: string; levels: Levels | null };
  constructor(readonly text: string) {}

  say(n: { from: number; to: number }, code: FormulaProblem["code"], message: string, insert?: string) {
    this.problems.push({
      code,
      from: n.from,
      to: n.to,
      message,
      ...(insert
        ? { mend: { label: insert, insert: this.text.slice(0, n.from) + insert + this.text.slice(n.to) } }
        : {}),
    });
  }
  written(n: { from: number; to: number }): string {
    return this.text.slice(n.from, n.to);
  }
  /** The type of a part once more, its problems told already. */
  quietly(n: Node, levels: Levels): Type {
    const before = this.problems.length;
    const type = this.typeOf(n, levels);
    this.problems.length = before;
    return type;
  }
  want(n: Node, levels: Levels, type: Type, what: string) {
    const got = this.typeOf(n, levels);
    if (!fits(got, type))
      this.say(
        n,
        "wrong-type",
        `${what} needs ${typeInWords(type)}; "${this.written(n)}" is ${typeInWords(got)}.`,
      );
  }

  typeOf(n: Node, levels: Levels): Type {
    switch (n.k) {
      case "num":
        return NUMBER;
      case "str":
        return TEXT;
      case "bool":
        return YESNO;
      case "null":
        return NULL;
      case "at":
        return this.at(n);
      case "name":
        return nameType(this, n, levels);
      case "path":
        return pathType(this, n, levels);
      case "arith":
        return arithmeticType(this, n, levels);
      case "neg": {
        const t = this.typeOf(n.of, levels);
        if (t.t !== "any" && t.t !== "null" && t.t !== "number" && t.t !== "duration")
          this.say(n, "wrong-type", `Only a number can have a minus before it.`);
        return t;
      }
      case "cmp": {
        const l = this.typeOf(n.left, levels);
        const r = this.typeOf(n.right, levels);
        checkComparable(this, n, l, r, n.op === "=" || n.op === "!=");
        checkChoice(this, l, n.right);
        checkChoice(this, r, n.left);
        return YESNO;
      }
      case "between": {
        const t = this.typeOf(n.of, levels);
        checkComparable(this, n, t, this.typeOf(n.low, levels), false);
        checkComparable(this, n, t, this.typeOf(n.high, levels), false);
        return YESNO;
      }
      case "in": {
        const t = this.typeOf(n.of, levels);
        for (const test of n.tests) checkTest(this, test, t, levels);
        return YESNO;
      }
      case "input":
        return levels.map((l) => l.names["?"]).find((t) => t !== undefined) ?? ANY;
      case "test":
        return { t: "range", of: this.typeOf(n.right, levels) };
      case "tests": {
        const input = levels.map((l) => l.names["?"]).find((t) => t !== undefined) ?? ANY;
        for (const test of n.tests) checkTest(this, test, input, levels);
        return YESNO;
      }
      case "instance": {
        const t = this.typeOf(n.of, levels);
        this.typeName(n, n.type);
        // A type with entries is held against the entries of the value, by their names.
        if (namesEntries(n.type)) this.reads.whole(n.of, t);
        return YESNO;
      }
      case "fn":
        return this.fn(n, levels, []);
      case "invoke":
        return this.invoke(n, levels);
      case "and":
      case "or":
        this.want(n.left, levels, YESNO, `"${n.k}"`);
        this.want(n.right, levels, YESNO, `"${n.k}"`);
        return YESNO;
      case "if":
        this.want(n.cond, levels, YESNO, `"if"`);
        return joinTypes(this.typeOf(n.then, levels), this.typeOf(n.else, levels));
      case "list":
        return listOf(n.items.map((i) => this.typeOf(i, levels)).reduce((a, b) => joinTypes(a, b), NULL));
      case "ctx":
        return this.ctx(n, levels);
      case "range":
        return { t: "range", of: joinTypes(this.typeOf(n.low, levels), this.typeOf(n.high, levels)) };
      case "filter":
        return this.filter(n, levels);
      case "for":
        return listOf(
          this.typeOf(n.body, [
            localLevel({ partial: listOf(ANY) }, n.body.from),
            ...this.bind(n.iters, levels),
          ]),
        );
      case "quant":
        this.want(n.body, this.bind(n.iters, levels), YESNO, n.every ? `"every"` : `"some"`);
        return YESNO;
      case "call":
        return callType(this, n, levels);
    }
  }

  private at(n: Extract<Node, { k: "at" }>): Type {
    const v = atLiteral(n.text);
    if (v === null) {
      this.say(
        n,
        "syntax",
        `"${n.text}" is no date, time or length of time. Examples: @"2026-03-01", @"PT4H".`,
      );
      return ANY;
    }
    if (isDate(v)) return DATE;
    if (isDateTime(v)) return DATETIME;
    if (isTime(v)) return TIME;
    return isDaysTime(v) ? DAYS : MONTHS;
  }

  fn(n: Extract<Node, { k: "fn" }>, levels: Levels, hints: readonly Type[]): Type {
    const params = n.params.map((p, i) => (p.type ? named(p.type) : (hints[i] ?? ANY)));
    for (const p of n.params) if (p.type && namesEntries(p.type)) this.reads.whole(n, ANY);
    const own = Object.fromEntries(n.params.map((p, i) => [p.name, params[i]!]));
    return { t: "function", params, result: this.typeOf(n.body, [localLevel(own, n.from), ...levels]) };
  }

  private invoke(n: Extract<Node, { k: "invoke" }>, levels: Levels): Type {
    const args = n.args.map((a) => this.typeOf(a, levels));
    const f = n.of.k === "fn" && !n.names ? this.fn(n.of, levels, args) : this.typeOf(n.of, levels);
    if (f.t === "function") return f.result;
    if (f.t !== "any" && f.t !== "null")
      this.say(n.of, "wrong-type", `"${this.written(n.of)}" is ${typeInWords(f)}, not a function.`);
    return ANY;
  }

  private ctx(n: Extract<Node, { k: "ctx" }>, levels: Levels): Type {
    const fields: Record<string, Type> = {};
    // A function may call itself and what stands further down; its own entry is known while its body is checked.
    for (const e of n.entries)
      if (e.value.k === "fn")
        fields[e.key] = { t: "function", params: e.value.params.map((p) => named(p.type)), result: ANY };
    for (const e of n.entries) fields[e.key] = this.typeOf(e.value, [localLevel(fields, n.from), ...levels]);
    return { t: "context", fields };
  }

  private filter(n: Extract<Node, { k: "filter" }>, levels: Levels): Type {
    const t = this.typeOf(n.of, levels);
    const item = t.t === "list" ? t.of : t;
    const by = this.typeOf(n.by, [itemLevel(item, n.by.from), ...levels]);
    if (by.t === "number") {
      // A position is the same whichever item is looked at; a number of the item itself is none.
      if (n.by.k === "name" && item.t === "context" && !item.open && Object.hasOwn(item.fields, n.by.name))
        this.say(
          n.by,
          "wrong-type",
          `A filter needs yes or no for each line; "${this.written(n.by)}" is a number of the line itself.`,
        );
      return item;
    }
    if (by.t === "null") return listOf(item);
    if (by.t !== "yesno" && by.t !== "any")
      this.say(
        n.by,
        "wrong-type",
        `A filter needs yes or no for each line, or a position; this is ${typeInWords(by)}.`,
      );
    return by.t === "any" ? ANY : listOf(item);
  }
  private bind(iters: readonly Iter[], levels: Levels): Levels {
    let inner = levels;
    for (const i of iters) {
      const t = this.typeOf(i.in, inner);
      if (i.to) this.typeOf(i.to, inner);
      // One value is a list of one (DMN 1.5, 10.3.2.5).
      inner = [localLevel({ [i.name]: i.to ? t : memberOf(t) }, i.in.from), ...inner];
    }
    return inner;
  }

  entry(base: Type, name: string, at: { from: number; to: number }, of: string, quoted?: true): Type {
    return entryType(this, base, name, at, of, quoted);
  }

  private typeName(at: Node, type: TypeName) {
    if (type.t === "simple") {
      if (!isTypeName(type.name))
        this.say(
          at,
          "unknown-name",
          `There is no type "${type.name}"; there are number, string, boolean, date, time, date and time, list, context, range, function and the two durations.`,
        );
    } else if (type.t === "list" || type.t === "range") this.typeName(at, type.of);
    else if (type.t === "context") type.fields.forEach((f) => this.typeName(at, f.type));
    else [...type.params, type.result].forEach((p) => this.typeName(at, p));
  }
}

const memberOf = (t: Type): Type => (t.t === "list" || t.t === "range" ? t.of : t);

const namesEntries = (t: TypeName): boolean => {
  switch (t.t) {
    case "simple":
      return false;
    case "list":
    case "range":
      return namesEntries(t.of);
    case "context":
      return t.fields.length > 0;
    case "function":
      return [...t.params, t.result].some(namesEntries);
  }
};

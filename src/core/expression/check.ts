import { callType } from "./checkCall";
import type { Checking } from "./checking";
import type { Iter, Node, TypeName } from "./ast";
import { isDaysTime } from "./durations";
import { FUNCTIONS } from "./functions";
import { isTypeName } from "./instance";
import { itemLevel, localLevel, topLevel, type Level, type Levels } from "./levels";
import { nearest } from "./nearest";
import { atLiteral } from "./operators";
import { parseFormula, type Dialect } from "./parse";
import type { FormulaProblem } from "./problem";
import { ownerOf, ReadsCollector, type Reads, type Target } from "./resolve";
import { named, partTypes, sumType } from "./typeRules";
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
  type ContextType,
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
 */
export function checkFormula(
  text: string,
  scope: Scope,
  wanted?: Type,
  dialect: Dialect = "expression",
): CheckedFormula {
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

class Checker implements Checking {
  readonly problems: FormulaProblem[] = [];
  readonly reads = new ReadsCollector();
  functionsWelcome = false;
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
        return this.name(n, levels);
      case "path":
        return this.path(n, levels);
      case "arith":
        return this.arith(n, levels);
      case "neg": {
        const t = this.typeOf(n.of, levels);
        if (t.t !== "any" && t.t !== "null" && t.t !== "number" && t.t !== "duration")
          this.say(n, "wrong-type", `Only a number can have a minus before it.`);
        return t;
      }
      case "cmp": {
        const l = this.typeOf(n.left, levels);
        const r = this.typeOf(n.right, levels);
        this.comparable(n, l, r, n.op === "=" || n.op === "!=");
        this.oneOf(l, n.right);
        this.oneOf(r, n.left);
        return YESNO;
      }
      case "between": {
        const t = this.typeOf(n.of, levels);
        this.comparable(n, t, this.typeOf(n.low, levels), false);
        this.comparable(n, t, this.typeOf(n.high, levels), false);
        return YESNO;
      }
      case "in": {
        const t = this.typeOf(n.of, levels);
        for (const test of n.tests) this.tested(test, t, levels);
        return YESNO;
      }
      case "input":
        return levels.map((l) => l.names["?"]).find((t) => t !== undefined) ?? ANY;
      case "test":
        return { t: "range", of: this.typeOf(n.right, levels) };
      case "tests": {
        const input = levels.map((l) => l.names["?"]).find((t) => t !== undefined) ?? ANY;
        for (const test of n.tests) this.tested(test, input, levels);
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

  private name(n: { from: number; to: number; name: string }, levels: Levels): Type {
    const read = (target: Target) => this.reads.read({ name: n.name, from: n.from, to: n.to, target });
    let maybe: Level | null = null;
    for (const l of levels) {
      const has = Object.hasOwn(l.names, n.name);
      if (l.open && !(has && n.name === "item")) {
        maybe ??= l;
        continue;
      }
      if (!has) continue;
      if (maybe) break;
      read(l.target(n.name));
      return l.names[n.name]!;
    }
    if (maybe) {
      read({ t: "unknown", outside: true });
      return ANY;
    }
    const fn = FUNCTIONS.get(n.name);
    if (fn) {
      read({ t: "function" });
      // Only where a function is asked for, as in sort(), may a built-in stand without brackets.
      if (!this.functionsWelcome)
        this.say(n, "unknown-name", `"${n.name}" is a function: it needs brackets, ${n.name}(…).`);
      return { t: "function", params: fn.overloads[0]!.params.map((p) => p.type), result: ANY };
    }
    read({ t: "nothing" });
    const near = nearest(
      n.name,
      levels.flatMap((l) => Object.keys(l.names)),
    );
    this.say(
      n,
      "unknown-name",
      `Nothing here is called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`,
      near ?? undefined,
    );
    return ANY;
  }

  private path(n: Extract<Node, { k: "path" }>, levels: Levels): Type {
    const at = { from: n.to - n.name.length, to: n.to };
    return this.entry(this.typeOf(n.of, levels), n.name, at, this.written(n.of));
  }

  entry(base: Type, name: string, at: { from: number; to: number }, of: string, quoted?: true): Type {
    const read = (target: Target) => this.reads.read({ name, ...at, target, ...(quoted ? { quoted } : {}) });
    if (base.t === "list") return listOf(this.entry(base.of, name, at, of, quoted));
    if (base.t === "any" || base.t === "null") {
      read({ t: "unknown", outside: false });
      return ANY;
    }
    if (base.t !== "context") {
      const parts = partTypes(base);
      if (Object.hasOwn(parts, name)) return parts[name]!;
      this.say(at, "unknown-name", `"${of}" is ${typeInWords(base)}; it has no "${name}".`);
      return ANY;
    }
    if (base.open) {
      read({ t: "unknown", outside: false });
      return Object.hasOwn(base.fields, name) ? base.fields[name]! : ANY;
    }
    if (Object.hasOwn(base.fields, name)) {
      read({ t: "entry", of: ownerOf(base) });
      return base.fields[name]!;
    }
    return this.noEntry(base, name, at, of, quoted);
  }

  private noEntry(
    base: ContextType,
    name: string,
    at: { from: number; to: number },
    of: string,
    quoted?: true,
  ): Type {
    this.reads.read({ name, ...at, target: { t: "nothing" }, ...(quoted ? { quoted } : {}) });
    const near = nearest(name, Object.keys(base.fields));
    this.say(
      at,
      "unknown-name",
      `"${of}" has nothing called "${name}".${near ? ` Did you mean "${near}"?` : ""}`,
      // Between its quotes a name is written as it is.
      near ?? undefined,
    );
    return ANY;
  }

  comparable(n: Node, l: Type, r: Type, equality: boolean) {
    if (equality) this.reads.compared(n, l, r);
    if (!fits(l, r) && !fits(r, l)) {
      this.say(n, "wrong-type", `${cap(typeInWords(l))} cannot be compared with ${typeInWords(r)}.`);
      return;
    }
    const side = l.t === "any" || l.t === "null" ? r : l;
    if (!equality && ["yesno", "context", "list"].includes(side.t))
      this.say(n, "wrong-type", `${cap(typeInWords(side))} has no more or less; only = and != work here.`);
  }

  /** A test against what it is held to: in a range, one of a list, or equal. */
  private tested(test: Node, t: Type, levels: Levels) {
    if (test.k === "test")
      return this.comparable(test, t, this.typeOf(test.right, levels), test.op === "=" || test.op === "!=");
    if (test.k === "list" && test.items.some((i) => i.k === "test"))
      return test.items.forEach((i) => this.tested(i, t, levels));
    this.oneOf(t, test);
    const x = this.typeOf(test, levels);
    if (x.t === "yesno" && t.t !== "yesno") return;
    // A list is one of a list of lists, or equal to a list; anything else is one of a list.
    const listed = x.t === "list" && (t.t !== "list" || fits(t, x.of)) ? x.of : x;
    this.comparable(test, t, listed.t === "range" && t.t !== "range" ? listed.of : listed, true);
  }

  /** A choice held against a text that is none of its options never holds. */
  private oneOf(t: Type, n: Node) {
    if (n.k === "list") n.items.forEach((i) => this.oneOf(t, i));
    if (t.t !== "text" || !t.options || n.k !== "str" || n.text === "" || t.options.includes(n.text)) return;
    const near = nearest(n.text, t.options);
    this.say(
      n,
      "wrong-type",
      `"${n.text}" is none of its choices: ${t.options.slice(0, 6).join(", ")}${t.options.length > 6 ? ", …" : ""}.`,
      near ? JSON.stringify(near) : undefined,
    );
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

  private arith(n: Extract<Node, { k: "arith" }>, levels: Levels): Type {
    const l = this.typeOf(n.left, levels);
    const r = this.typeOf(n.right, levels);
    if (l.t === "number" && r.t === "number") return NUMBER;
    if (l.t === "any" || r.t === "any" || l.t === "null" || r.t === "null") {
      if (n.op === "+" && (l.t === "text" || r.t === "text")) return TEXT;
      // Only lengths of time can also be multiplied by a number; adding needs a number on both sides.
      return n.op !== "*" && n.op !== "/" && (l.t === "number" || r.t === "number") ? NUMBER : ANY;
    }
    const type = sumType(n.op, l, r);
    if (type) return type;
    if (n.op === "+" && (l.t === "text" || r.t === "text")) {
      const other = l.t === "text" ? n.right : n.left;
      const shown = this.text.slice(other.from, other.to);
      this.say(
        other,
        "wrong-type",
        `Text can only be joined with text; "${shown}" is ${typeInWords(l.t === "text" ? r : l)}.`,
        `string(${shown})`,
      );
      return TEXT;
    }
    if ((l.t === "date" || l.t === "datetime") && r.t === "number" && (n.op === "+" || n.op === "-")) {
      const shown = this.text.slice(n.right.from, n.right.to);
      const mend = /^\d+$/.test(shown) ? `@"P${shown}D"` : `${shown} * @"P1D"`;
      this.say(
        n.right,
        "wrong-type",
        `A date moves by a length of time, not by a bare number: ${mend} is that many days.`,
        mend,
      );
      return l;
    }
    this.say(
      n,
      "wrong-type",
      `${cap(typeInWords(l))} and ${typeInWords(r)} cannot go together with "${n.op}".`,
    );
    return ANY;
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

const cap = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

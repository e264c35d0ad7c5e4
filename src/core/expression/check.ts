import type { Iter, Node, TypeName } from "./ast";
import { candidates } from "./calls";
import { FUNCTIONS } from "./functions";
import { isTypeName } from "./instance";
import { nearest } from "./nearest";
import { atLiteral } from "./operators";
import { accepts, inputs, named, partTypes, sumType } from "./typeRules";
import { parseFormula, type Dialect } from "./parse";
import type { FormulaProblem } from "./problem";
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
import { isDaysTime } from "./durations";
import { isDate, isDateTime, isTime } from "./values";

export interface CheckedFormula {
  ast: Node | null;
  type: Type;
  problems: FormulaProblem[];
}

/**
 * Parses a formula and finds its type against the names in scope.
 * @param wanted when given, a result that does not fit is a problem too
 */
export function checkFormula(
  text: string,
  scope: Scope,
  wanted?: Type,
  dialect: Dialect = "expression",
): CheckedFormula {
  const { ast, problems } = parseFormula(text, scope, dialect);
  if (!ast) return { ast, type: ANY, problems };
  const checker = new Checker(text);
  const type = checker.typeOf(ast, [scope]);
  if (wanted && checker.problems.length === 0 && !fits(type, wanted)) {
    const mend = wanted.t === "text" ? { label: `string(${text})`, insert: `string(${text})` } : undefined;
    checker.problems.push({
      code: "wrong-type",
      from: 0,
      to: text.length,
      message: `This comes to ${typeInWords(type)}; ${typeInWords(wanted)} is needed here.`,
      ...(mend ? { mend } : {}),
    });
  }
  return { ast, type, problems: checker.problems };
}

/** The type of a part of a formula that was checked before. */
export const typeInScopes = (n: Node, text: string, scope: Scope): Type =>
  new Checker(text).typeOf(n, [scope]);

type Scopes = readonly Scope[];

class Checker {
  readonly problems: FormulaProblem[] = [];
  private functionsWelcome = false;
  constructor(private readonly text: string) {}

  private say(
    n: { from: number; to: number },
    code: FormulaProblem["code"],
    message: string,
    insert?: string,
  ) {
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
  private want(n: Node, scopes: Scopes, type: Type, what: string) {
    const got = this.typeOf(n, scopes);
    if (!fits(got, type))
      this.say(
        n,
        "wrong-type",
        `${what} needs ${typeInWords(type)}; "${this.text.slice(n.from, n.to)}" is ${typeInWords(got)}.`,
      );
  }

  typeOf(n: Node, scopes: Scopes): Type {
    switch (n.k) {
      case "num":
        return NUMBER;
      case "str":
        return TEXT;
      case "bool":
        return YESNO;
      case "null":
        return NULL;
      case "at": {
        const v = atLiteral(n.text);
        if (v === null)
          this.say(
            n,
            "syntax",
            `"${n.text}" is no date, time or length of time. Examples: @"2026-03-01", @"PT4H".`,
          );
        if (isDate(v)) return DATE;
        if (isDateTime(v)) return DATETIME;
        if (isTime(v)) return TIME;
        if (v === null) return ANY;
        if (isDaysTime(v)) return DAYS;
        return MONTHS;
      }
      case "name":
        return this.name(n, scopes);
      case "path":
        return this.path(n, scopes);
      case "arith":
        return this.arith(n, scopes);
      case "neg": {
        const t = this.typeOf(n.of, scopes);
        if (t.t !== "any" && t.t !== "number" && t.t !== "duration")
          this.say(n, "wrong-type", `Only a number can have a minus before it.`);
        return t;
      }
      case "cmp": {
        const l = this.typeOf(n.left, scopes);
        const r = this.typeOf(n.right, scopes);
        this.comparable(n, l, r, n.op === "=" || n.op === "!=");
        this.oneOf(l, n.right);
        this.oneOf(r, n.left);
        return YESNO;
      }
      case "between": {
        const t = this.typeOf(n.of, scopes);
        this.comparable(n, t, this.typeOf(n.low, scopes), false);
        this.comparable(n, t, this.typeOf(n.high, scopes), false);
        return YESNO;
      }
      case "in": {
        const t = this.typeOf(n.of, scopes);
        for (const test of n.tests) this.tested(test, t, scopes);
        return YESNO;
      }
      case "input":
        return scopes.map((s) => s["?"]).find((t) => t !== undefined) ?? ANY;
      case "test":
        return { t: "range", of: this.typeOf(n.right, scopes) };
      case "tests": {
        const input = scopes.map((s) => s["?"]).find((t) => t !== undefined) ?? ANY;
        for (const test of n.tests) this.tested(test, input, scopes);
        return YESNO;
      }
      case "instance":
        this.typeOf(n.of, scopes);
        this.typeName(n, n.type);
        return YESNO;
      case "fn":
        return {
          t: "function",
          params: n.params.map((p) => named(p.type)),
          result: this.typeOf(n.body, [
            Object.fromEntries(n.params.map((p) => [p.name, named(p.type)])),
            ...scopes,
          ]),
        };
      case "invoke": {
        const f = this.typeOf(n.of, scopes);
        n.args.forEach((a) => this.typeOf(a, scopes));
        if (f.t === "function") return f.result;
        if (f.t !== "any" && f.t !== "null")
          this.say(
            n.of,
            "wrong-type",
            `"${this.text.slice(n.of.from, n.of.to)}" is ${typeInWords(f)}, not a function.`,
          );
        return ANY;
      }
      case "and":
      case "or":
        this.want(n.left, scopes, YESNO, `"${n.k}"`);
        this.want(n.right, scopes, YESNO, `"${n.k}"`);
        return YESNO;
      case "if":
        this.want(n.cond, scopes, YESNO, `"if"`);
        return joinTypes(this.typeOf(n.then, scopes), this.typeOf(n.else, scopes));
      case "list":
        return listOf(n.items.map((i) => this.typeOf(i, scopes)).reduce(joinTypes, NULL));
      case "ctx": {
        const fields: Record<string, Type> = {};
        // A function may call itself and what stands further down; its own entry is known while its body is checked.
        for (const e of n.entries)
          if (e.value.k === "fn")
            fields[e.key] = { t: "function", params: e.value.params.map((p) => named(p.type)), result: ANY };
        for (const e of n.entries) fields[e.key] = this.typeOf(e.value, [fields, ...scopes]);
        return { t: "context", fields };
      }
      case "range":
        return { t: "range", of: joinTypes(this.typeOf(n.low, scopes), this.typeOf(n.high, scopes)) };
      case "filter": {
        const t = this.typeOf(n.of, scopes);
        const item = t.t === "list" ? t.of : t;
        const inner: Record<string, Type> = { item };
        if (item.t === "context") Object.assign(inner, item.fields);
        const by = this.typeOf(n.by, [inner, ...scopes]);
        if (by.t === "number") return item;
        if (by.t === "null") return listOf(item);
        if (by.t !== "yesno" && by.t !== "any")
          this.say(
            n.by,
            "wrong-type",
            `A filter needs yes or no for each line, or a position; this is ${typeInWords(by)}.`,
          );
        return by.t === "any" ? ANY : listOf(item);
      }
      case "for":
        return listOf(this.typeOf(n.body, [{ partial: listOf(ANY) }, ...this.bind(n.iters, scopes)]));
      case "quant":
        this.want(n.body, this.bind(n.iters, scopes), YESNO, n.every ? `"every"` : `"some"`);
        return YESNO;
      case "call":
        return this.call(n, scopes);
    }
  }

  private bind(iters: readonly Iter[], scopes: Scopes): Scopes {
    let inner = scopes;
    for (const i of iters) {
      const t = this.typeOf(i.in, inner);
      if (i.to) this.typeOf(i.to, inner);
      if (!i.to && t.t !== "list" && t.t !== "range" && t.t !== "any" && t.t !== "null")
        this.say(i.in, "wrong-type", `"in" runs over a list; this is ${typeInWords(t)}.`);
      const member = t.t === "list" || t.t === "range" ? t.of : ANY;
      inner = [{ [i.name]: i.to ? t : member }, ...inner];
    }
    return inner;
  }

  private name(n: { from: number; to: number; name: string }, scopes: Scopes): Type {
    for (const s of scopes) if (Object.hasOwn(s, n.name)) return s[n.name]!;
    const fn = FUNCTIONS.get(n.name);
    if (fn) {
      // Only where a function is asked for, as in sort(), may a built-in stand without brackets.
      if (!this.functionsWelcome)
        this.say(n, "unknown-name", `"${n.name}" is a function: it needs brackets, ${n.name}(…).`);
      return { t: "function", params: fn.overloads[0]!.params.map((p) => p.type), result: ANY };
    }
    const near = nearest(
      n.name,
      scopes.flatMap((s) => Object.keys(s)),
    );
    this.say(
      n,
      "unknown-name",
      `Nothing here is called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`,
      near ?? undefined,
    );
    return ANY;
  }

  private path(n: Extract<Node, { k: "path" }>, scopes: Scopes): Type {
    const base = this.typeOf(n.of, scopes);
    const one = base.t === "list" ? base.of : base;
    if (one.t === "any" || one.t === "null") return ANY;
    if (one.t !== "context") {
      const parts = partTypes(one);
      if (Object.hasOwn(parts, n.name)) return base.t === "list" ? listOf(parts[n.name]!) : parts[n.name]!;
      this.say(
        n,
        "unknown-name",
        `"${this.text.slice(n.of.from, n.of.to)}" is ${typeInWords(one)}; it has no "${n.name}".`,
      );
      return ANY;
    }
    const found = Object.hasOwn(one.fields, n.name) ? one.fields[n.name]! : null;
    if (!found) {
      const near = nearest(n.name, Object.keys(one.fields));
      this.say(
        { from: n.to - n.name.length, to: n.to },
        "unknown-name",
        `"${this.text.slice(n.of.from, n.of.to)}" has nothing called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`,
        near ?? undefined,
      );
      return ANY;
    }
    return base.t === "list" ? listOf(found) : found;
  }

  private comparable(n: Node, l: Type, r: Type, equality: boolean) {
    if (!fits(l, r) && !fits(r, l)) {
      this.say(n, "wrong-type", `${cap(typeInWords(l))} cannot be compared with ${typeInWords(r)}.`);
      return;
    }
    const side = l.t === "any" || l.t === "null" ? r : l;
    if (!equality && ["yesno", "context", "list"].includes(side.t))
      this.say(n, "wrong-type", `${cap(typeInWords(side))} has no more or less; only = and != work here.`);
  }

  /** A test against what it is held to: in a range, one of a list, or equal. */
  private tested(test: Node, t: Type, scopes: Scopes) {
    if (test.k === "test")
      return this.comparable(test, t, this.typeOf(test.right, scopes), test.op === "=" || test.op === "!=");
    if (test.k === "list" && test.items.some((i) => i.k === "test"))
      return test.items.forEach((i) => this.tested(i, t, scopes));
    this.oneOf(t, test);
    const x = this.typeOf(test, scopes);
    if (x.t === "yesno" && t.t !== "yesno") return;
    const one = x.t === "list" && t.t !== "list" ? x.of : x;
    this.comparable(test, t, one.t === "range" && t.t !== "range" ? one.of : one, true);
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

  private arith(n: Extract<Node, { k: "arith" }>, scopes: Scopes): Type {
    const l = this.typeOf(n.left, scopes);
    const r = this.typeOf(n.right, scopes);
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

  private call(n: Extract<Node, { k: "call" }>, scopes: Scopes): Type {
    const head = { from: n.from, to: n.from + n.fn.length };
    const fn = FUNCTIONS.get(n.fn);
    const local = scopes
      .map((s) => (Object.hasOwn(s, n.fn) ? s[n.fn]! : null))
      .find((t) => t?.t === "function");
    const welcome = this.functionsWelcome;
    this.functionsWelcome = fn?.overloads.some((o) => o.params.some((p) => p.type.t === "function")) ?? true;
    const types = n.args.map((a) => this.typeOf(a, scopes));
    this.functionsWelcome = welcome;
    if (local?.t === "function") return local.result;
    if (!fn) {
      if (scopes.some((s) => s[n.fn]?.t === "any")) return ANY;
      const near = nearest(n.fn, [...FUNCTIONS.keys()]);
      this.say(
        head,
        "unknown-function",
        `There is no function "${n.fn}".${near ? ` Did you mean "${near}"?` : ""}`,
        near ?? undefined,
      );
      return ANY;
    }
    const ways = candidates(fn, types.length, n.names);
    if (ways.length === 0) {
      const odd = n.names?.find((x) => !fn.overloads.some((o) => o.params.some((q) => q.name === x)));
      if (odd)
        this.say(head, "wrong-count", `"${n.fn}" has no input called "${odd}". It takes: ${inputs(fn)}.`);
      else
        this.say(
          n,
          "wrong-count",
          `"${n.fn}" takes ${inputs(fn)} in its brackets; here ${types.length === 1 ? "is 1" : `are ${types.length}`}.`,
        );
      return ANY;
    }
    // The first way whose kinds fit is taken; where none fits, the first mistake of the nearest way is told.
    let nearestWay: { at: Node; message: string; good: number } | null = null;
    let result: Type | null = null;
    for (const { overload, order } of ways) {
      const given = order.map((i) => (i < 0 ? NULL : types[i]!));
      const bad = given.findIndex(
        (t, k) => !accepts(overload.params[Math.min(k, overload.params.length - 1)]!.type, t),
      );
      if (bad < 0) {
        const found = typeof overload.result === "function" ? overload.result(given) : overload.result;
        // Several ways may fit while a kind is open; they must agree to say more than "a value".
        result = result === null ? found : joinTypes(result, found);
        if (types.every((t) => t.t !== "any" && t.t !== "null")) break;
        continue;
      }
      if (nearestWay && nearestWay.good >= bad) continue;
      const p = overload.params[Math.min(bad, overload.params.length - 1)]!;
      nearestWay = {
        at: n.args[order[bad]!]!,
        good: bad,
        message: `"${n.fn}" needs ${typeInWords(p.type)} as ${p.name}; this is ${typeInWords(given[bad]!)}.`,
      };
    }
    if (result) return result;
    this.say(nearestWay!.at, "wrong-type", nearestWay!.message);
    return typeof fn.overloads[0]!.result === "function" ? ANY : fn.overloads[0]!.result;
  }
}

const cap = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

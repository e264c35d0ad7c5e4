import type { Iter, Node } from "./ast";
import { FUNCTIONS } from "./functions";
import { atLiteral } from "./literals";
import { parseFormula } from "./parse";
import type { FormulaProblem } from "./problem";
import {
  ANY, DATE, DATETIME, DURATION, fits, joinTypes, listOf, NULL, NUMBER, TEXT, TIME, typeInWords, YESNO,
  type Scope, type Type,
} from "./types";
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
export function checkFormula(text: string, scope: Scope, wanted?: Type): CheckedFormula {
  const { ast, problems } = parseFormula(text, scope);
  if (!ast) return { ast, type: ANY, problems };
  const checker = new Checker(text);
  const type = checker.typeOf(ast, [scope]);
  if (wanted && checker.problems.length === 0 && !fits(type, wanted)) {
    const mend =
      wanted.t === "text"
        ? { label: `string(${text})`, insert: `string(${text})` }
        : undefined;
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

type Scopes = readonly Scope[];

class Checker {
  readonly problems: FormulaProblem[] = [];
  constructor(private readonly text: string) {}

  private say(n: { from: number; to: number }, code: FormulaProblem["code"], message: string, insert?: string) {
    this.problems.push({
      code, from: n.from, to: n.to, message,
      ...(insert ? { mend: { label: insert, insert: this.text.slice(0, n.from) + insert + this.text.slice(n.to) } } : {}),
    });
  }
  private want(n: Node, scopes: Scopes, type: Type, what: string) {
    const got = this.typeOf(n, scopes);
    if (!fits(got, type))
      this.say(n, "wrong-type", `${what} needs ${typeInWords(type)}; "${this.text.slice(n.from, n.to)}" is ${typeInWords(got)}.`);
  }

  typeOf(n: Node, scopes: Scopes): Type {
    switch (n.k) {
      case "num": return NUMBER;
      case "str": return TEXT;
      case "bool": return YESNO;
      case "null": return NULL;
      case "at": {
        const v = atLiteral(n.text, "UTC");
        if (v === null) this.say(n, "syntax", `"${n.text}" is no date, time or length of time. Examples: @"2026-03-01", @"PT4H".`);
        return isDate(v) ? DATE : isDateTime(v) ? DATETIME : isTime(v) ? TIME : v === null ? ANY : DURATION;
      }
      case "name": return this.name(n, scopes);
      case "path": return this.path(n, scopes);
      case "arith": return this.arith(n, scopes);
      case "neg": {
        const t = this.typeOf(n.of, scopes);
        if (t.t !== "any" && t.t !== "number" && t.t !== "duration") this.say(n, "wrong-type", `Only a number can have a minus before it.`);
        return t;
      }
      case "cmp": {
        const l = this.typeOf(n.left, scopes);
        const r = this.typeOf(n.right, scopes);
        this.comparable(n, l, r, n.op === "=" || n.op === "!=");
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
        for (const test of n.tests) {
          if (test.k === "test") this.comparable(test, t, this.typeOf(test.right, scopes), false);
          else {
            const x = this.typeOf(test, scopes);
            this.comparable(test, t, x.t === "range" || x.t === "list" ? x.of : x, true);
          }
        }
        return YESNO;
      }
      case "test": return YESNO;
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
        if (by.t !== "yesno" && by.t !== "any")
          this.say(n.by, "wrong-type", `A filter needs yes or no for each line, or a position; this is ${typeInWords(by)}.`);
        return by.t === "any" ? ANY : listOf(item);
      }
      case "for": return listOf(this.typeOf(n.body, this.bind(n.iters, scopes)));
      case "quant":
        this.want(n.body, this.bind(n.iters, scopes), YESNO, n.every ? `"every"` : `"some"`);
        return YESNO;
      case "call": return this.call(n, scopes);
    }
  }

  private bind(iters: readonly Iter[], scopes: Scopes): Scopes {
    let inner = scopes;
    for (const i of iters) {
      const t = this.typeOf(i.in, inner);
      if (i.to) this.typeOf(i.to, inner);
      if (!i.to && t.t !== "list" && t.t !== "any" && t.t !== "null")
        this.say(i.in, "wrong-type", `"in" runs over a list; this is ${typeInWords(t)}.`);
      inner = [{ [i.name]: i.to ? t : t.t === "list" ? t.of : ANY }, ...inner];
    }
    return inner;
  }

  private name(n: { from: number; to: number; name: string }, scopes: Scopes): Type {
    for (const s of scopes) if (Object.hasOwn(s, n.name)) return s[n.name]!;
    if (Object.hasOwn(FUNCTIONS, n.name)) {
      this.say(n, "unknown-name", `"${n.name}" is a function: it needs brackets, ${n.name}(…).`);
      return ANY;
    }
    const near = nearest(n.name, scopes.flatMap((s) => Object.keys(s)));
    this.say(n, "unknown-name", `Nothing here is called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`, near ?? undefined);
    return ANY;
  }

  private path(n: Extract<Node, { k: "path" }>, scopes: Scopes): Type {
    const base = this.typeOf(n.of, scopes);
    const one = base.t === "list" ? base.of : base;
    if (one.t === "any" || one.t === "null") return ANY;
    if (one.t !== "context") {
      const parts: Record<string, Type> =
        one.t === "date" || one.t === "datetime" ? { year: NUMBER, month: NUMBER, day: NUMBER, hour: NUMBER, minute: NUMBER }
        : one.t === "duration" ? { years: NUMBER, months: NUMBER, days: NUMBER, hours: NUMBER, minutes: NUMBER } : {};
      if (Object.hasOwn(parts, n.name)) return parts[n.name]!;
      this.say(n, "unknown-name", `"${this.text.slice(n.of.from, n.of.to)}" is ${typeInWords(one)}; it has no "${n.name}".`);
      return ANY;
    }
    const found = Object.hasOwn(one.fields, n.name) ? one.fields[n.name]! : null;
    if (!found) {
      const near = nearest(n.name, Object.keys(one.fields));
      this.say({ from: n.to - n.name.length, to: n.to }, "unknown-name",
        `"${this.text.slice(n.of.from, n.of.to)}" has nothing called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`, near ?? undefined);
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

  private arith(n: Extract<Node, { k: "arith" }>, scopes: Scopes): Type {
    const l = this.typeOf(n.left, scopes);
    const r = this.typeOf(n.right, scopes);
    if (l.t === "any" || r.t === "any" || l.t === "null" || r.t === "null") return l.t === "any" || l.t === "null" ? r : l;
    const pair = `${l.t}${n.op}${r.t}`;
    const known: Record<string, Type> = {
      "text+text": TEXT, "date+duration": DATE, "duration+date": DATE, "date-duration": DATE, "date-date": DURATION,
      "datetime+duration": DATETIME, "duration+datetime": DATETIME, "datetime-duration": DATETIME, "datetime-datetime": DURATION,
      "datetime-date": DURATION, "date-datetime": DURATION,
      "duration+duration": DURATION, "duration-duration": DURATION, "duration*number": DURATION, "number*duration": DURATION,
      "duration/number": DURATION, "duration/duration": NUMBER, "time+duration": TIME, "time-duration": TIME, "time-time": DURATION,
    };
    if (l.t === "number" && r.t === "number") return NUMBER;
    const type = known[pair];
    if (type) return type;
    if (n.op === "+" && (l.t === "text" || r.t === "text")) {
      const other = l.t === "text" ? n.right : n.left;
      const shown = this.text.slice(other.from, other.to);
      this.say(other, "wrong-type", `Text can only be joined with text; "${shown}" is ${typeInWords(l.t === "text" ? r : l)}.`, `string(${shown})`);
      return TEXT;
    }
    this.say(n, "wrong-type", `${cap(typeInWords(l))} and ${typeInWords(r)} cannot go together with "${n.op}".`);
    return ANY;
  }

  private call(n: Extract<Node, { k: "call" }>, scopes: Scopes): Type {
    const fn = Object.hasOwn(FUNCTIONS, n.fn) ? FUNCTIONS[n.fn]! : null;
    const types = n.args.map((a) => this.typeOf(a, scopes));
    const head = { from: n.from, to: n.from + n.fn.length };
    if (!fn) {
      const near = nearest(n.fn, Object.keys(FUNCTIONS));
      this.say(head, "unknown-function", `There is no function "${n.fn}".${near ? ` Did you mean "${near}"?` : ""}`, near ?? undefined);
      return ANY;
    }
    if (n.names) {
      const odd = n.names.find((x) => !fn.params.some((q) => q.name === x));
      if (odd) this.say(head, "wrong-count", `"${n.fn}" has no input called "${odd}". It takes: ${fn.params.map((q) => q.name).join(", ")}.`);
      return typeof fn.result === "function" ? ANY : fn.result;
    }
    const least = fn.params.filter((q) => !q.optional).length;
    if (types.length < least || (!fn.many && types.length > fn.params.length))
      this.say(n, "wrong-count", `"${n.fn}" takes ${fn.params.map((q) => q.name).join(", ") || "nothing"} in its brackets; here are ${types.length}.`);
    fn.params.forEach((q, i) => {
      const t = types[i];
      if (t && !fits(t, q.type)) this.say(n.args[i]!, "wrong-type", `"${n.fn}" needs ${typeInWords(q.type)} as ${q.name}; this is ${typeInWords(t)}.`);
    });
    return typeof fn.result === "function" ? fn.result(types) : fn.result;
  }
}

const cap = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** The closest known name, when close enough to be what was meant. */
export function nearest(name: string, among: readonly string[]): string | null {
  let best: string | null = null;
  let least = Math.max(2, Math.floor(name.length / 3)) + 1;
  for (const other of new Set(among)) {
    const d = other.toLowerCase() === name.toLowerCase() ? 0 : distance(name.toLowerCase(), other.toLowerCase(), least);
    if (d < least) [best, least] = [other, d];
  }
  return best;
}

function distance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) >= limit) return limit;
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length]!;
}


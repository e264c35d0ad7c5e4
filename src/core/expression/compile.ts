import { Temporal } from "temporal-polyfill";
import type { CompareOp, Iter, Node } from "./ast";
import { FUNCTIONS, type Surroundings } from "./functions";
import { atLiteral } from "./literals";
import { divide, isNum, Num } from "./numbers";
import {
  compareValues, durationMs, equalValues, isContext, isDate, isDateTime, isDuration, isList, isTime, isYearsMonths,
  RangeValue, type Value,
} from "./values";

/** Names visible to a formula: a lookup, so that a form can give values it works out on demand. */
export interface Names {
  get(name: string): Value | undefined;
}

export interface Env {
  names: Names;
  around: Surroundings;
  /** Steps left; shared by everything evaluated for one purpose, so that work is bounded. */
  fuel: { left: number };
}

export type Program = (env: Env) => Value;

export const DEFAULT_FUEL = 2_000_000;
const MAX_LIST = 100_000;
const MAX_TEXT = 200_000;

/** Thrown inside and caught by evaluate(): the work asked for is more than a formula may do. */
class OutOfFuel extends Error {}

export function environment(names: Names, around: Surroundings, fuel = { left: DEFAULT_FUEL }): Env {
  return { names, around, fuel };
}

/** Runs a program; never throws. A formula that runs out of its allowance comes to null. */
export function evaluate(program: Program, env: Env): Value {
  try {
    return program(env);
  } catch (e) {
    if (e instanceof OutOfFuel || e instanceof RangeError) return null;
    throw e;
  }
}

type Code = (s: State) => Value;
interface State {
  env: Env;
  locals: Value[];
}

/** Turns a checked tree into a closure. Compile once, run often. */
export function compile(ast: Node): Program {
  const code = new Compiler().code(ast, []);
  return (env) => code({ env, locals: [] });
}

interface Binding {
  slot: number;
  /** Names inside a filter: looked up in the item first, then outside. */
  item: boolean;
  name: string;
}

class Compiler {
  private slots = 0;

  code(n: Node, bound: readonly Binding[]): Code {
    switch (n.k) {
      case "num": { const v = new Num(n.text); return () => v; }
      case "str": { const v = n.text; return () => v; }
      case "bool": { const v = n.value; return () => v; }
      case "null": return () => null;
      case "at": return (s) => atLiteral(n.text, s.env.around.now.timeZoneId);
      case "name": return this.name(n.name, bound);
      case "path": { const of = this.code(n.of, bound); return (s) => member(of(s), n.name); }
      case "neg": {
        const of = this.code(n.of, bound);
        return (s) => { const v = of(s); return isNum(v) ? v.negated() : isDuration(v) ? v.negated() : null; };
      }
      case "arith": {
        const [l, r, op] = [this.code(n.left, bound), this.code(n.right, bound), n.op];
        return (s) => { burn(s, 1); return arith(op, l(s), r(s)); };
      }
      case "cmp": {
        const [l, r, op] = [this.code(n.left, bound), this.code(n.right, bound), n.op];
        return (s) => { burn(s, 1); return comparison(op, l(s), r(s)); };
      }
      case "between": {
        const [of, low, high] = [n.of, n.low, n.high].map((x) => this.code(x, bound)) as [Code, Code, Code];
        return (s) => { const v = of(s); return and(comparison(">=", v, low(s)), comparison("<=", v, high(s))); };
      }
      case "in": {
        const of = this.code(n.of, bound);
        const tests = n.tests.map((t) => this.test(t, bound));
        return (s) => {
          const v = of(s);
          let out: Value = false;
          for (const t of tests) { out = or(out, t(s, v)); if (out === true) return true; }
          return out;
        };
      }
      case "test": return () => null;
      case "and": {
        const [l, r] = [this.code(n.left, bound), this.code(n.right, bound)];
        return (s) => { const a = l(s); return a === false ? false : and(a, r(s)); };
      }
      case "or": {
        const [l, r] = [this.code(n.left, bound), this.code(n.right, bound)];
        return (s) => { const a = l(s); return a === true ? true : or(a, r(s)); };
      }
      case "if": {
        const [c, t, e] = [n.cond, n.then, n.else].map((x) => this.code(x, bound)) as [Code, Code, Code];
        return (s) => (c(s) === true ? t(s) : e(s));
      }
      case "list": { const items = n.items.map((i) => this.code(i, bound)); return (s) => items.map((i) => i(s)); }
      case "ctx": {
        const slot = this.slots++;
        const inner = [{ slot, item: true, name: "" }, ...bound];
        const entries = n.entries.map((e) => [e.key, this.code(e.value, inner)] as const);
        return (s) => {
          const out = new Map<string, Value>();
          s.locals[slot] = out;
          for (const [k, v] of entries) out.set(k, v(s));
          return out;
        };
      }
      case "range": {
        const [low, high] = [this.code(n.low, bound), this.code(n.high, bound)];
        return (s) => new RangeValue(low(s), high(s), n.includesLow, n.includesHigh);
      }
      case "filter": return this.filter(n, bound);
      case "for": {
        const slots = this.slots;
        const inner = this.bind(n.iters, bound);
        const body = this.code(n.body, inner);
        const run = this.loops(n.iters, bound, slots);
        return (s) => {
          const out: Value[] = [];
          run(s, () => { if (out.length >= MAX_LIST) throw new OutOfFuel(); out.push(body(s)); return true; });
          return out;
        };
      }
      case "quant": {
        const slots = this.slots;
        const inner = this.bind(n.iters, bound);
        const body = this.code(n.body, inner);
        const run = this.loops(n.iters, bound, slots);
        return (s) => {
          let out: Value = n.every;
          run(s, () => {
            out = n.every ? and(out, body(s)) : or(out, body(s));
            return out !== !n.every;
          });
          return out;
        };
      }
      case "call": return this.call(n, bound);
    }
  }

  private name(name: string, bound: readonly Binding[]): Code {
    const chain = bound.filter((b) => b.item || b.name === name);
    const outer: Code = (s) => s.env.names.get(name) ?? null;
    if (chain.length === 0) return outer;
    return chain.reduceRight<Code>((next, b) => {
      if (!b.item) return (s) => s.locals[b.slot] ?? null;
      return (s) => {
        const item = s.locals[b.slot] ?? null;
        if (b.name !== "" && name === "item") return item;
        return isContext(item) && item.has(name) ? item.get(name)! : next(s);
      };
    }, outer);
  }

  private test(t: Node, bound: readonly Binding[]): (s: State, v: Value) => Value {
    if (t.k === "test") {
      const r = this.code(t.right, bound);
      return (s, v) => comparison(t.op, v, r(s));
    }
    const code = this.code(t, bound);
    return (s, v) => {
      const x = code(s);
      if (x instanceof RangeValue) return within(v, x);
      if (isList(x) && !isList(v)) return x.some((y) => equalValues(v, y) === true);
      return equalValues(v, x);
    };
  }

  private filter(n: Extract<Node, { k: "filter" }>, bound: readonly Binding[]): Code {
    const of = this.code(n.of, bound);
    const slot = this.slots++;
    const by = this.code(n.by, [{ slot, item: true, name: "item" }, ...bound]);
    const constant = n.by.k === "num" || (n.by.k === "neg" && n.by.of.k === "num");
    return (s) => {
      const v = of(s);
      const list = isList(v) ? v : v === null ? [] : [v];
      if (constant) { s.locals[slot] = null; return at(list, by(s)); }
      const out: Value[] = [];
      for (const item of list) {
        burn(s, 1);
        s.locals[slot] = item;
        const keep = by(s);
        if (isNum(keep)) return at(list, keep);
        if (keep === true) out.push(item);
      }
      return out;
    };
  }

  private bind(iters: readonly Iter[], bound: readonly Binding[]): readonly Binding[] {
    const base = this.slots;
    this.slots += iters.length;
    return [...iters.map((i, k) => ({ slot: base + k, item: false, name: i.name })).reverse(), ...bound];
  }

  private loops(iters: readonly Iter[], bound: readonly Binding[], base: number) {
    let inner = bound;
    const sources = iters.map((i, k) => {
      const from = this.code(i.in, inner);
      const to = i.to ? this.code(i.to, inner) : null;
      inner = [{ slot: base + k, item: false, name: i.name }, ...inner];
      return (s: State): readonly Value[] => {
        const v = from(s);
        if (!to) return isList(v) ? v : v === null ? [] : [v];
        return counted(v, to(s));
      };
    });
    return (s: State, each: () => boolean) => {
      const walk = (k: number): boolean => {
        if (k === sources.length) { burn(s, 1); return each(); }
        for (const v of sources[k]!(s)) {
          s.locals[base + k] = v;
          if (!walk(k + 1)) return false;
        }
        return true;
      };
      walk(0);
    };
  }

  private call(n: Extract<Node, { k: "call" }>, bound: readonly Binding[]): Code {
    const fn = Object.hasOwn(FUNCTIONS, n.fn) ? FUNCTIONS[n.fn]! : null;
    if (!fn) return () => null;
    const codes = n.args.map((a) => this.code(a, bound));
    const order = n.names;
    return (s) => {
      let args = codes.map((c) => c(s));
      burn(s, 1 + args.reduce<number>((sum, a) => sum + (isList(a) ? a.length : 0), 0));
      if (order) args = fn.params.map((q) => { const i = order.indexOf(q.name); return i < 0 ? (undefined as unknown as Value) : args[i]!; });
      const out = fn.run(args, s.env.around);
      if (typeof out === "string" && out.length > MAX_TEXT) throw new OutOfFuel();
      return out;
    };
  }
}

function burn(s: State, n: number) {
  if ((s.env.fuel.left -= n) < 0) throw new OutOfFuel();
}

const at = (list: readonly Value[], n: Value): Value => {
  if (!isNum(n) || !n.isInteger() || n.isZero()) return null;
  const i = n.toNumber();
  return list[i > 0 ? i - 1 : list.length + i] ?? null;
};

function counted(a: Value, b: Value): Value[] {
  if (!isNum(a) || !isNum(b) || !a.isInteger() || !b.isInteger()) return [];
  const [x, y] = [a.toNumber(), b.toNumber()];
  if (Math.abs(y - x) >= MAX_LIST) throw new OutOfFuel();
  const step = x <= y ? 1 : -1;
  return Array.from({ length: Math.abs(y - x) + 1 }, (_, i) => new Num(x + i * step));
}

function member(v: Value, name: string): Value {
  if (isContext(v)) return v.get(name) ?? null;
  if (isList(v)) return v.map((x) => member(x, name));
  if (isDate(v) || isDateTime(v) || isTime(v)) {
    const part = { year: "year", month: "month", day: "day", hour: "hour", minute: "minute", second: "second" }[name];
    const n = part ? (v as unknown as Record<string, number | undefined>)[part] : undefined;
    return n === undefined ? null : new Num(n);
  }
  if (isDuration(v)) {
    const part = { years: v.years, months: v.months, days: v.days, hours: v.hours, minutes: v.minutes, seconds: v.seconds }[name];
    return part === undefined ? null : new Num(part);
  }
  return null;
}

/** Ternary logic (DMN 1.5, tables 50 and 51): what is not yes or no counts as unknown. */
const and = (a: Value, b: Value): Value => (a === false || b === false ? false : a === true && b === true ? true : null);
const or = (a: Value, b: Value): Value => (a === true || b === true ? true : a === false && b === false ? false : null);

function comparison(op: CompareOp, a: Value, b: Value): Value {
  if (op === "=") return equalValues(a, b);
  if (op === "!=") { const e = equalValues(a, b); return e === null ? null : !e; }
  const c = compareValues(a, b);
  if (c === null) return null;
  return op === "<" ? c < 0 : op === "<=" ? c <= 0 : op === ">" ? c > 0 : c >= 0;
}

const within = (v: Value, r: RangeValue): Value =>
  and(comparison(r.includesLow ? ">=" : ">", v, r.low), comparison(r.includesHigh ? "<=" : "<", v, r.high));

const milliseconds = (ms: number) => Temporal.Duration.from({ milliseconds: Math.round(ms) }).round({ largestUnit: "days" });

function arith(op: string, a: Value, b: Value): Value {
  if (isNum(a) && isNum(b)) {
    switch (op) {
      case "+": return a.plus(b);
      case "-": return a.minus(b);
      case "*": return a.times(b);
      case "/": return divide(a, b);
      default: { const v = a.pow(b); return v.isFinite() ? v : null; }
    }
  }
  if (typeof a === "string" && typeof b === "string") {
    if (op !== "+") return null;
    if (a.length + b.length > MAX_TEXT) throw new OutOfFuel();
    return a + b;
  }
  if (isDuration(a) && isDuration(b)) {
    if (op === "/" && !isYearsMonths(a) && !isYearsMonths(b)) return divide(new Num(durationMs(a)), new Num(durationMs(b)));
    if (isYearsMonths(a) !== isYearsMonths(b) || (op !== "+" && op !== "-")) return null;
    return op === "+" ? a.add(b) : a.subtract(b);
  }
  if (isDuration(b) && (op === "+" || op === "-") && (isDate(a) || isDateTime(a) || isTime(a)))
    return op === "+" ? a.add(b) : a.subtract(b);
  if (isDuration(a) && op === "+" && (isDate(b) || isDateTime(b) || isTime(b))) return b.add(a);
  if (op === "-" && isDate(a) && isDate(b)) return a.since(b, { largestUnit: "days" });
  if (op === "-" && isDateTime(a) && isDateTime(b)) return a.toInstant().since(b.toInstant(), { largestUnit: "hours" });
  const [d, n] = isDuration(a) ? [a, b] : [b, a];
  if (isDuration(d) && isNum(n) && (op === "*" || (op === "/" && d === a))) {
    const factor = op === "*" ? n : divide(new Num(1), n);
    if (!factor) return null;
    if (isYearsMonths(d)) return Temporal.Duration.from({ months: factor.times(d.years * 12 + d.months).trunc().toNumber() });
    return milliseconds(factor.times(durationMs(d)).toNumber());
  }
  return null;
}

import { Decimal } from "decimal.js";
import type { Temporal } from "temporal-polyfill";
import type { Node } from "../ast";
import { FUNCTIONS } from "../functions";
import { coerced } from "../functions/define";
import { isNum, Num } from "../numbers";
import { arith, atLiteral, negated } from "../operators";
import {
  asList,
  compareValues,
  FunctionValue,
  isContext,
  isDate,
  isDateTime,
  isList,
  isRange,
  RangeValue,
  type Value,
} from "../values";
import { isDaysTime, isYearsMonths } from "../durations";

const D = Decimal.clone({ precision: 34, rounding: Decimal.ROUND_HALF_EVEN, maxE: 6144, minE: -6143 });
type Names = (name: string) => Value | undefined;

/**
 * A second, slow reading of the standard for tests to hold the compiled one against: straight over the tree, names
 * through nested lookups, numbers by decimal.js, logic by its tables.
 */
export function slowly(n: Node, names: ReadonlyMap<string, Value>, now: Temporal.ZonedDateTime): Value {
  return read(n, (name) => names.get(name));

  function equal(a: Value, b: Value): boolean | null {
    if (a === null && b === null) return true;
    if (a === null || b === null) return false;
    if (isList(a) && isList(b)) return a.length === b.length && a.every((x, i) => equal(x, b[i]!) === true);
    if (isContext(a) && isContext(b))
      return [...new Set([...a.keys(), ...b.keys()])].every(
        (k) => a.has(k) && b.has(k) && equal(a.get(k)!, b.get(k)!) === true,
      );
    if (typeof a === "boolean" && typeof b === "boolean") return a === b;
    if (a instanceof FunctionValue && b instanceof FunctionValue) return a === b;
    if (isNum(a) && isNum(b)) return new D(a.toFixed()).equals(b.toFixed());
    const c = compareValues(a, b);
    return c === null ? null : c === 0;
  }
  function compare(op: string, a: Value, b: Value): Value {
    if (op === "=") return equal(a, b);
    if (op === "!=") {
      const e = equal(a, b);
      return e === null ? null : !e;
    }
    const c = isNum(a) && isNum(b) ? new D(a.toFixed()).comparedTo(b.toFixed()) : compareValues(a, b);
    if (c === null) return null;
    return { "<": c < 0, "<=": c <= 0, ">": c > 0, ">=": c >= 0 }[op]!;
  }
  function table(kind: "and" | "or", a: Value, b: Value): Value {
    const sign = (v: Value) => {
      if (v === true) return "T";
      if (v === false) return "F";
      return "?";
    };
    const TABLE: Record<string, Value> =
      kind === "and"
        ? {
            TT: true,
            TF: false,
            "T?": null,
            FT: false,
            FF: false,
            "F?": false,
            "?T": null,
            "?F": false,
            "??": null,
          }
        : {
            TT: true,
            TF: true,
            "T?": true,
            FT: true,
            FF: false,
            "F?": null,
            "?T": true,
            "?F": null,
            "??": null,
          };
    return TABLE[sign(a) + sign(b)]!;
  }
  function sum(op: string, a: Value, b: Value): Value {
    if (isNum(a) && isNum(b)) {
      const [x, y] = [new D(a.toFixed()), new D(b.toFixed())];
      if (op === "/" && y.isZero()) return null;
      const ways = { "+": "plus", "-": "minus", "*": "times", "/": "div" } as const;
      const r = x[ways[op as keyof typeof ways]](y);
      return r.isFinite() ? Num.of(r.toFixed()) : null;
    }
    if (typeof a === "string" && typeof b === "string") return op === "+" ? a + b : null;
    return arith(op as "+", a, b);
  }
  function test(v: Value, t: Value): Value {
    if (t === true && typeof v !== "boolean") return true;
    if (t === false && typeof v !== "boolean" && v !== null) return false;
    return inside(v, t);
  }
  function inside(v: Value, t: Value): Value {
    if (isRange(t) && !isRange(v))
      return table(
        "and",
        compare(t.includesLow ? ">=" : ">", v, t.low),
        compare(t.includesHigh ? "<=" : "<", v, t.high),
      );
    if (isList(t))
      return isList(v) && equal(v, t) === true
        ? true
        : t.map((x) => inside(v, x)).reduce((a, b) => table("or", a, b), false);
    return equal(v, t);
  }
  function get(v: Value, name: string): Value {
    if (isContext(v)) return v.get(name) ?? null;
    if (isList(v)) return v.map((x) => get(x, name));
    if (name === "year" && (isDate(v) || isDateTime(v))) return Num.of(v.year);
    if (name === "days" && isDaysTime(v)) return Num.of(String(v.ns / 86_400_000_000_000n));
    if (name === "years" && isYearsMonths(v)) return Num.of(Math.trunc(v.months / 12));
    return null;
  }
  function position(list: readonly Value[], by: Num): Value {
    const i = Number(by.toFixed());
    return (Number.isInteger(i) && i !== 0 ? list.at(i > 0 ? i - 1 : i) : null) ?? null;
  }
  function over(v: Value): readonly Value[] | null {
    if (v === null || isList(v)) return v;
    if (!isRange(v)) return [v];
    return null;
  }
  function read(x: Node, look: Names): Value {
    switch (x.k) {
      case "num":
        return Num.of(x.text);
      case "str":
        return x.text;
      case "bool":
        return x.value;
      case "null":
        return null;
      case "at":
        return atLiteral(x.text);
      case "name":
        return look(x.name) ?? null;
      case "path":
        return get(read(x.of, look), x.name);
      case "neg":
        return negated(read(x.of, look));
      case "arith":
        return sum(x.op, read(x.left, look), read(x.right, look));
      case "cmp":
        return compare(x.op, read(x.left, look), read(x.right, look));
      case "and":
      case "or":
        return table(x.k, read(x.left, look), read(x.right, look));
      case "if":
        return read(x.cond, look) === true ? read(x.then, look) : read(x.else, look);
      case "between": {
        const v = read(x.of, look);
        return table("and", compare(">=", v, read(x.low, look)), compare("<=", v, read(x.high, look)));
      }
      case "in": {
        const v = read(x.of, look);
        return x.tests.map((t) => test(v, read(t, look))).reduce((a, b) => table("or", a, b), false);
      }
      case "list":
        return x.items.map((i) => read(i, look));
      case "ctx": {
        const out = new Map<string, Value>();
        for (const e of x.entries)
          out.set(
            e.key,
            read(e.value, (name) => (out.has(name) ? out.get(name) : look(name))),
          );
        return out;
      }
      case "range": {
        const [a, b] = [read(x.low, look), read(x.high, look)];
        return a === null || b === null ? null : new RangeValue(a, b, x.includesLow, x.includesHigh);
      }
      case "filter": {
        const v = read(x.of, look);
        const list = asList(v);
        const by = (item: Value) =>
          read(x.by, (name) => {
            if (name === "item") return item;
            if (isContext(item) && item.has(name)) return item.get(name);
            return look(name);
          });
        const first = by(list[0] ?? null);
        if (isNum(first)) return position(list, first);
        // A position may also turn up at a later item, where the predicate gave no number for those before.
        for (const item of list) {
          const p = by(item);
          if (isNum(p)) return position(list, p);
        }
        return v === null ? null : list.filter((item) => by(item) === true);
      }
      case "for": {
        const items = over(read(x.iters[0]!.in, look));
        return (
          items && items.map((i) => read(x.body, (name) => (name === x.iters[0]!.name ? i : look(name))))
        );
      }
      case "quant": {
        const items = over(read(x.iters[0]!.in, look));
        return (
          items &&
          items
            .map((i) => read(x.body, (name) => (name === x.iters[0]!.name ? i : look(name))))
            .reduce((a, b) => table(x.every ? "and" : "or", a, b), x.every)
        );
      }
      case "invoke": {
        const f = x.of as Extract<Node, { k: "fn" }>;
        const arg = read(x.args[0]!, look);
        return read(f.body, (name) => (name === f.params[0]!.name ? arg : look(name)));
      }
      case "call": {
        const args = x.args.map((a) => read(a, look));
        const site = { now, spend: () => undefined, say: () => null, wasEmpty: () => null, call: () => null };
        for (const o of FUNCTIONS.get(x.fn)!.overloads) {
          const p = o.params[0]!;
          const empty = p.nullable ? null : undefined;
          const fit = args[0] === null ? empty : coerced(args[0]!, p.type);
          if (fit !== undefined) return o.run([fit] as never, site);
        }
        return null;
      }
      case "fn":
      case "input":
      case "instance":
      case "test":
      case "tests":
        throw new Error(`the slow reading has no ${x.k}`);
    }
  }
}

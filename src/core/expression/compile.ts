import type { CompareOp, Node } from "./ast";
import type { Bound, CodeMaker } from "./binding";
import { builtinValue, callCode, functionCode, invokeCode } from "./calls";
import { instanceOf } from "./instance";
import { forCode, filterCode, quantCode } from "./loops";
import { meterBy, TooHeavy } from "./meter";
import { finite, Num } from "./numbers";
import { and, arith, atLiteral, comparison, member, negated, or, passes } from "./operators";
import { held, quietly, short, yesOrNo } from "./reasons";
import { MAX_TEXT, OutOfFuel, Run, type Code, type Env, type State } from "./run";
import { FUNCTIONS } from "./functions";
import { isContext, RangeValue, type Value } from "./values";

export type Program = (env: Env) => Value;

const NO_LOCALS: Value[] = [];
Object.freeze(NO_LOCALS);

/** Turns a checked tree into a closure. Compile once, run often. */
export function compile(ast: Node): Program {
  const compiler = new Compiler();
  const code = compiler.code(ast, []);
  // Most formulas bind no names of their own; those need no place for them.
  return compiler.slots === 0 ? (env) => code(new Run(env, NO_LOCALS)) : (env) => code(new Run(env, []));
}

/**
 * Runs a program. A formula that runs out of its allowance comes to null.
 * @throws TooHeavy where the time its caller gives for everything together is over
 */
export function evaluate(program: Program, env: Env): Value {
  if (env.around.outOfTime?.() === true) throw new TooHeavy();
  const before = meterBy(env);
  try {
    return program(env);
  } catch (e) {
    if (!(e instanceof OutOfFuel) && !(e instanceof RangeError)) throw e;
    env.notes?.push({
      code: "too-much-work",
      from: 0,
      to: 0,
      message: "This is more work than a formula may do: fewer lines, shorter texts or less nesting help.",
    });
    return null;
  } finally {
    meterBy(before);
  }
}

class Compiler implements CodeMaker {
  slots = 0;

  code(n: Node, bound: Bound): Code {
    switch (n.k) {
      case "num": {
        const v = Num.of(n.text);
        return v.isFinite() ? () => v : () => null;
      }
      case "str": {
        const v = n.text;
        return () => v;
      }
      case "bool": {
        const v = n.value;
        return () => v;
      }
      case "null":
        return () => null;
      case "at": {
        const v = atLiteral(n.text);
        return v === null ? (s) => s.run.note(n, `"${n.text}" is no date, time or length of time.`) : () => v;
      }
      case "name":
        return this.name(n, bound);
      case "input":
        return (s) => s.run.env.names.get("?") ?? null;
      case "path":
        return this.path(n, bound);
      case "neg": {
        const of = this.code(n.of, bound);
        return (s) => {
          const v = of(s);
          return v === null
            ? null
            : (negated(v) ?? s.run.note(n, "Only a number or a length of time has a minus."));
        };
      }
      case "arith":
        return this.arithmetic(n, bound);
      case "cmp": {
        const asked = nullTest(n);
        if (asked) {
          const of = this.code(asked, bound);
          const wanted = n.op === "=";
          return (s) => (quietly(s, of) === null) === wanted;
        }
        const [l, r, op] = [this.code(n.left, bound), this.code(n.right, bound), n.op];
        const order = ORDERS[op];
        const slow = (s: State, a: Value, b: Value): Value => {
          const v = comparison(op, a, b);
          if (v === null && s.run.env.notes && a !== null && b !== null)
            s.run.note(n, `${short(a)} and ${short(b)} cannot be compared.`);
          return v;
        };
        if (n.right.k === "num") {
          const c = Num.of(n.right.text);
          // A closure for each relation: an order handed in would be one more call each time.
          if (c.isFinite())
            switch (op) {
              case ">":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) > 0 : slow(s, a, c);
                };
              case ">=":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) >= 0 : slow(s, a, c);
                };
              case "<":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) < 0 : slow(s, a, c);
                };
              case "<=":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) <= 0 : slow(s, a, c);
                };
              case "=":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) === 0 : slow(s, a, c);
                };
              case "!=":
                return (s) => {
                  const a = l(s);
                  return a instanceof Num ? a.comparedTo(c) !== 0 : slow(s, a, c);
                };
            }
        }
        return (s) => {
          const a = l(s);
          const b = r(s);
          return a instanceof Num && b instanceof Num ? order(a.comparedTo(b)) : slow(s, a, b);
        };
      }
      case "between": {
        const [of, low, high] = [this.code(n.of, bound), this.code(n.low, bound), this.code(n.high, bound)];
        return (s) => {
          const v = of(s);
          const [a, b] = [low(s), high(s)];
          return held(s, n, and(comparison(">=", v, a), comparison("<=", v, b)), v, a, b);
        };
      }
      case "in": {
        const of = this.code(n.of, bound);
        const tests = n.tests.map((t) => this.test(t, bound));
        return (s) => any(tests, s, of(s));
      }
      case "test":
        return this.openRange(n, bound);
      case "tests": {
        const tests = n.tests.map((t) => this.test(t, bound));
        if (tests.length === 0) return () => true;
        return (s) => {
          const v = any(tests, s, s.run.env.names.get("?") ?? null);
          if (n.not) {
            if (typeof v === "boolean") return !v;
            return null;
          }
          return v;
        };
      }
      case "and": {
        const [l, r] = [this.code(n.left, bound), this.code(n.right, bound)];
        return (s) => {
          const a = l(s);
          if (a === false) return false;
          const b = r(s);
          return a === true && typeof b === "boolean" ? b : (and(a, b) ?? yesOrNo(s, n, a, b));
        };
      }
      case "or": {
        const [l, r] = [this.code(n.left, bound), this.code(n.right, bound)];
        return (s) => {
          const a = l(s);
          if (a === true) return true;
          const b = r(s);
          return or(a, b) ?? yesOrNo(s, n, a, b);
        };
      }
      case "if": {
        const [c, t, e] = [this.code(n.cond, bound), this.code(n.then, bound), this.code(n.else, bound)];
        return (s) => {
          const is = c(s);
          if (is !== true && is !== false) yesOrNo(s, n.cond, is);
          return is === true ? t(s) : e(s);
        };
      }
      case "list": {
        const items = n.items.map((i) => this.code(i, bound));
        return (s) => items.map((i) => i(s));
      }
      case "ctx":
        return this.context(n, bound);
      case "range": {
        const [low, high] = [this.code(n.low, bound), this.code(n.high, bound)];
        return (s) => {
          const [a, b] = [low(s), high(s)];
          return a === null || b === null ? null : new RangeValue(a, b, n.includesLow, n.includesHigh);
        };
      }
      case "instance": {
        const of = this.code(n.of, bound);
        return (s) => instanceOf(of(s), n.type);
      }
      case "filter":
        return filterCode(this, n, bound);
      case "for":
        return forCode(this, n, bound);
      case "quant":
        return quantCode(this, n, bound);
      case "call":
        return callCode(this, n, bound);
      case "invoke":
        return invokeCode(this, n, bound);
      case "fn":
        return functionCode(this, n, bound);
    }
  }

  /** Looks a name up from the innermost binding outwards. */
  name({ name }: { name: string }, bound: Bound): Code {
    const builtin = FUNCTIONS.get(name);
    return this.lookUp(name, bound, (s) => {
      const v = s.run.env.names.get(name);
      if (v !== undefined) return v;
      if (builtin) return builtinValue(builtin, s.run);
      return null;
    });
  }

  lookUp(name: string, bound: Bound, outer: Code): Code {
    const chain = bound.filter((b) => b.item || b.name === name);
    return chain.reduceRight<Code>((next, b) => {
      if (b.growing)
        return (s) => {
          const list = s.locals[b.slot] as readonly Value[];
          burn(s, list.length);
          return [...list];
        };
      if (!b.item) return (s) => s.locals[b.slot] ?? null;
      return (s) => {
        const item = s.locals[b.slot] ?? null;
        if (b.name !== "" && name === "item") return item;
        return isContext(item) && item.has(name) ? (item.get(name) ?? null) : next(s);
      };
    }, outer);
  }

  private path(n: Extract<Node, { k: "path" }>, bound: Bound): Code {
    const of = this.code(n.of, bound);
    const name = n.name;
    return (s) => {
      const v = of(s);
      if (isContext(v)) return v.get(name) ?? null;
      return member(v, name);
    };
  }

  private arithmetic(n: Extract<Node, { k: "arith" }>, bound: Bound): Code {
    const [l, r, op] = [this.code(n.left, bound), this.code(n.right, bound), n.op];
    const slow = (s: State, a: Value, b: Value): Value => {
      if (typeof a === "string" && typeof b === "string" && a.length + b.length > MAX_TEXT)
        throw new OutOfFuel();
      const v = arith(op, a, b);
      if (v === null && s.run.env.notes && a !== null && b !== null)
        s.run.note(
          n,
          op === "/" && b instanceof Num && b.isZero()
            ? "Nothing can be divided by zero."
            : `${short(a)} ${op} ${short(b)} comes to nothing.`,
        );
      return v;
    };
    // A closure for each operator, and for a written number on the right: what is known now is not asked again.
    if (n.right.k === "num") {
      const c = Num.of(n.right.text);
      if (op === "+")
        return (s) => {
          const a = l(s);
          return a instanceof Num ? finite(a.plus(c)) : slow(s, a, c);
        };
      if (op === "-")
        return (s) => {
          const a = l(s);
          return a instanceof Num ? finite(a.minus(c)) : slow(s, a, c);
        };
      if (op === "*")
        return (s) => {
          const a = l(s);
          return a instanceof Num ? finite(a.times(c)) : slow(s, a, c);
        };
    }
    switch (op) {
      case "+":
        return (s) => {
          const a = l(s);
          const b = r(s);
          return a instanceof Num && b instanceof Num ? finite(a.plus(b)) : slow(s, a, b);
        };
      case "-":
        return (s) => {
          const a = l(s);
          const b = r(s);
          return a instanceof Num && b instanceof Num ? finite(a.minus(b)) : slow(s, a, b);
        };
      case "*":
        return (s) => {
          const a = l(s);
          const b = r(s);
          return a instanceof Num && b instanceof Num ? finite(a.times(b)) : slow(s, a, b);
        };
      case "/":
      case "**":
        return (s) => slow(s, l(s), r(s));
    }
  }

  private context(n: Extract<Node, { k: "ctx" }>, bound: Bound): Code {
    const slot = this.slots++;
    const inner: Bound = [{ slot, item: true, name: "" }, ...bound];
    const entries = n.entries.map((e) => [e.key, this.code(e.value, inner)] as const);
    const twice = n.entries.some((e, i) => n.entries.findIndex((x) => x.key === e.key) !== i);
    return (s) => {
      if (twice) return s.run.note(n, "Two entries have the same name.");
      const out = new Map<string, Value>();
      s.locals[slot] = out;
      for (const [k, v] of entries) {
        const x = v(s);
        out.set(k, x);
        // A nested context uses slots of its own, but a function called meanwhile may have run this very code.
        s.locals[slot] = out;
      }
      return out;
    };
  }

  private openRange(n: Extract<Node, { k: "test" }>, bound: Bound): Code {
    const r = this.code(n.right, bound);
    return (s) => {
      const v = r(s);
      if (v === null) return null;
      switch (n.op) {
        case "<":
          return new RangeValue(null, v, false, false, "low");
        case "<=":
          return new RangeValue(null, v, false, true, "low");
        case ">":
          return new RangeValue(v, null, false, false, "high");
        case ">=":
          return new RangeValue(v, null, true, false, "high");
        case "=":
          return new RangeValue(v, v, true, true);
        case "!=":
          return s.run.note(n, `"!=" stands for no range.`);
      }
    };
  }

  private test(t: Node, bound: Bound): (s: State, v: Value) => Value {
    if (t.k === "test") {
      const r = this.code(t.right, bound);
      return (s, v) => {
        const x = r(s);
        return held(s, t, comparison(t.op, v, x), v, x);
      };
    }
    // `x in [< 5, 3]`: items of a written list are tests themselves.
    if (t.k === "list" && t.items.some((i) => i.k === "test")) {
      const tests = t.items.map((i) => this.test(i, bound));
      return (s, v) => any(tests, s, v);
    }
    const code = this.code(t, bound);
    return (s, v) => {
      const x = code(s);
      // A test may also be a condition of its own, with the input as `?`.
      if (x === true && typeof v !== "boolean") return true;
      if (x === false && typeof v !== "boolean" && v !== null) return false;
      return held(s, t, passes(v, x), v, x);
    };
  }
}

const ORDERS: Record<CompareOp, (c: number) => boolean> = {
  "=": (c) => c === 0,
  "!=": (c) => c !== 0,
  "<": (c) => c < 0,
  "<=": (c) => c <= 0,
  ">": (c) => c > 0,
  ">=": (c) => c >= 0,
};
/** What is asked whether it is there: the other side of a comparison with null. */
function nullTest(n: Extract<Node, { k: "cmp" }>): Node | null {
  if (n.op !== "=" && n.op !== "!=") return null;
  if (n.right.k === "null") return n.left;
  return n.left.k === "null" ? n.right : null;
}
function any(tests: readonly ((s: State, v: Value) => Value)[], s: State, v: Value): Value {
  let out: Value = false;
  for (const t of tests) if ((out = or(out, t(s, v))) === true) return true;
  return out;
}

export function burn(s: State, n: number) {
  if ((s.run.env.fuel.left -= n) < 0) throw new OutOfFuel();
}

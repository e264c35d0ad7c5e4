import { sizeOf, type Iter, type Node } from "./ast";
import type { Bound, CodeMaker } from "./binding";
import { isNum, Num } from "./numbers";
import { and, itemAt, or } from "./operators";
import { quietly, yesOrNo } from "./reasons";
import { COST } from "./meter";
import { MAX_LIST, OutOfFuel, type Code, type State } from "./run";
import { asList, isDate, isList, isRange, type Value } from "./values";

const spend = (s: State, n: number) => s.run.spend(n);

/**
 * `1..5` or two dates, up or down by one (DMN 1.5, 10.3.2.14); null when the ends are neither. Made one by one, and paid
 * for when made: what is settled by the first of them costs no more.
 */
function counted(s: State, a: Value, b: Value, withA = true, withB = true): Iterable<Value> | null {
  if (isDate(a) && isDate(b)) {
    const days = a.until(b).days;
    const step = days < 0 ? -1 : 1;
    return steps(s, Math.abs(days), withA, withB, COST.countedDate, (i) => a.add({ days: i * step }));
  }
  if (!isNum(a) || !isNum(b) || !a.isInteger() || !b.isInteger()) return null;
  const [x, y] = [a.toNumber(), b.toNumber()];
  const step = x <= y ? 1 : -1;
  return steps(s, Math.abs(y - x), withA, withB, COST.counted, (i) => Num.of(x + i * step));
}

function* steps(
  s: State,
  length: number,
  first: boolean,
  last: boolean,
  cost: number,
  at: (i: number) => Value,
): Generator<Value> {
  if (!(length < MAX_LIST)) throw new OutOfFuel();
  const end = last ? length : length - 1;
  for (let i = first ? 0 : 1; i <= end; i++) {
    spend(s, cost);
    yield at(i);
  }
}

/** What a loop runs over; null where that is nothing at all. */
function itemsOf(s: State, v: Value, at: Node): Iterable<Value> | null {
  if (isList(v)) return v;
  if (v === null) return null;
  if (isRange(v) && !v.open) {
    const all = counted(s, v.low, v.high, v.includesLow, v.includesHigh);
    return all ?? s.run.note(at, "Only a range of whole numbers or dates can be gone through.");
  }
  return [v];
}

/** Runs `each` for every combination, the last source fastest; `each` says whether to go on. False when a source is nothing. */
function loops(
  c: CodeMaker,
  iters: readonly Iter[],
  body: Node,
  bound: Bound,
): { inner: Bound; walk(s: State, each: () => boolean): boolean } {
  // Work is counted where it is repeated: a formula itself is short, so only loops and calls need counting.
  const cost = sizeOf(body);
  let inner = bound;
  const sources = iters.map((i) => {
    const from = c.code(i.in, inner);
    const to = i.to ? c.code(i.to, inner) : null;
    const slot = c.slots++;
    inner = [{ slot, item: false, name: i.name }, ...inner];
    return {
      slot,
      list: (s: State) =>
        to
          ? (counted(s, from(s), to(s)) ?? s.run.note(i.in, "A count needs two whole numbers or two dates."))
          : itemsOf(s, from(s), i.in),
    };
  });
  const last = sources.length - 1;
  const walk = (s: State, each: () => boolean): boolean => {
    let whole = true;
    const go = (k: number): boolean => {
      const { slot, list } = sources[k]!;
      const items = list(s);
      if (items === null) {
        whole = false;
        return false;
      }
      for (const v of items) {
        s.locals[slot] = v;
        if (k < last) {
          spend(s, 1);
          if (!go(k + 1)) return false;
        } else {
          spend(s, cost);
          if (!each()) return false;
        }
      }
      return true;
    };
    go(0);
    return whole;
  };
  return { inner, walk };
}

export function forCode(c: CodeMaker, n: Extract<Node, { k: "for" }>, bound: Bound): Code {
  const { inner, walk } = loops(c, n.iters, n.body, bound);
  const partial = c.slots++;
  const body = c.code(n.body, [{ slot: partial, item: false, name: "partial", growing: true }, ...inner]);
  return (s) => {
    const out: Value[] = [];
    s.locals[partial] = out;
    const whole = walk(s, () => {
      if (out.length >= MAX_LIST) throw new OutOfFuel();
      const v = body(s);
      out.push(v);
      s.locals[partial] = out;
      return true;
    });
    return whole ? out : null;
  };
}

export function quantCode(c: CodeMaker, n: Extract<Node, { k: "quant" }>, bound: Bound): Code {
  const { inner, walk } = loops(c, n.iters, n.body, bound);
  const body = c.code(n.body, inner);
  return (s) => {
    let out: Value = n.every;
    const whole = walk(s, () => {
      const v = body(s);
      if (typeof v !== "boolean") yesOrNo(s, n.body, v);
      out = n.every ? and(out, v) : or(out, v);
      return out !== !n.every;
    });
    return whole ? out : null;
  };
}

/** A filter (DMN 1.5, 10.3.2.5): by position, or by a condition that sees the columns of each item. */
export function filterCode(c: CodeMaker, n: Extract<Node, { k: "filter" }>, bound: Bound): Code {
  const of = c.code(n.of, bound);
  const slot = c.slots++;
  const cost = sizeOf(n.by) + COST.filtered;
  const by = c.code(n.by, [{ slot, item: true, name: "item" }, ...bound]);
  return (s) => {
    const v = of(s);
    const list = asList(v);
    const out: Value[] = [];
    for (let i = 0; i < Math.max(list.length, 1); i++) {
      spend(s, cost);
      s.locals[slot] = list[i] ?? null;
      // Where there is no item, a reason found without one says nothing.
      const keep = i < list.length ? by(s) : quietly(s, by);
      // The position is the same whatever the item; it is asked for once.
      if (isNum(keep)) return itemAt(list, keep);
      if (typeof keep !== "boolean") yesOrNo(s, n.by, keep);
      if (keep === true && i < list.length) out.push(list[i]!);
    }
    return v === null ? null : out;
  };
}

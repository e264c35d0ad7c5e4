import { COST } from "../meter";
import { finite, isNum, Num, type Num as N } from "../numbers";
import { ANY, joinTypes, listOf, type Type } from "../types";
import { compareValues, equalValues, isList, type FunctionValue, type Value } from "../values";
import { overload, type CallSite, type Overload } from "./define";

type List = readonly Value[];
const itemType = (args: readonly Type[]): Type => (args[0]?.t === "list" ? args[0].of : (args[0] ?? ANY));
const sameList = (args: readonly Type[]): Type => (args[0]?.t === "list" ? args[0] : listOf(args[0] ?? ANY));
/** The list with other items put in: the arguments from `first` on, or the items of them where they are lists. */
const mixedList =
  (first: number, lists = false) =>
  (args: readonly Type[]): Type => {
    const added = args.slice(first).map((t) => (lists && t.t === "list" ? t.of : t));
    return listOf([itemType(args), ...added].reduce((a, b) => joinTypes(a, b)));
  };

/** For functions that take one list or the items one by one: `sum([1, 2])` and `sum(1, 2)` are the same (10.3.4.4). */
const flat = (args: List): List => (args.length === 1 && isList(args[0]!) ? args[0] : args);
const numbers = (args: List, at: CallSite): N[] | null => {
  const out: N[] = [];
  for (const v of flat(args))
    if (isNum(v)) out.push(v);
    else if (v === null) return at.wasEmpty("One of the numbers is empty.");
    else return at.say("Only numbers can be worked with here.");
  return out;
};
const overNumbers = (empty: Value, f: (ns: N[]) => Value): Overload[] => [
  overload("list: any... -> number", (args: List, at) => {
    const ns = numbers(args, at);
    if (ns === null) return null;
    if (ns.length === 0) return empty;
    return f(ns);
  }),
];
const total = (ns: readonly N[]) => ns.reduce((a, b) => a.plus(b));
const mean = (ns: readonly N[]) => total(ns).div(Num.of(ns.length));
const sorted = (ns: readonly N[]) => [...ns].sort((a, b) => a.comparedTo(b));

const extreme = (sign: 1 | -1): Overload[] => [
  overload(
    "list: any... -> any",
    (args: List, at) => {
      let best: Value = null;
      for (const v of flat(args)) {
        if (v === null) return at.wasEmpty("One of the values is empty.");
        if (best === null) {
          best = v;
          continue;
        }
        const c = compareValues(v, best);
        if (c === null) return at.say("The values are of different kinds; they have no order.");
        if (c * sign > 0) best = v;
      }
      return best;
    },
    itemType,
  ),
];
const yesNos = (decisive: boolean): Overload[] => [
  overload("list: any... -> yesno", (args: List) => {
    let unknown = false;
    for (const v of flat(args))
      if (v === decisive) return decisive;
      else if (v !== !decisive) unknown = true;
    return unknown ? null : !decisive;
  }),
];
/** DMN 1.5, 10.3.4.4: positions count from 1, or from -1 backwards. */
function position(l: List, n: N, at: CallSite, room = 0): number | null {
  const i = n.isInteger() ? n.toNumber() : 0;
  if (i === 0 || Math.abs(i) > l.length + room)
    return at.say(`The list has ${l.length} items; there is no position ${n.toFixed()}.`);
  return i > 0 ? i - 1 : l.length + i;
}
const same = (a: Value, b: Value) => equalValues(a, b) === true;
/** A text that is equal for equal numbers, texts and plain words; null for all other values. */
function plainKey(v: Value): string | null {
  if (isNum(v)) return `n${v.toFixed()}`;
  if (typeof v === "string") return `t${v}`;
  return v === null || typeof v === "boolean" ? `is ${String(v)}` : null;
}
const unique = (l: List, at: CallSite): Value[] => {
  const out: Value[] = [];
  // Numbers and texts by their text; only the others are compared one by one.
  const seen = new Set<string>();
  const rest: Value[] = [];
  for (const v of l) {
    const key = plainKey(v);
    if (key !== null) {
      if (seen.has(key)) continue;
      seen.add(key);
    } else {
      at.spend(rest.length * COST.compared);
      if (rest.some((x) => same(x, v))) continue;
      rest.push(v);
    }
    out.push(v);
  }
  return out;
};
function flattened(l: List, at: CallSite, out: Value[] = []): Value[] {
  at.spend(l.length);
  for (const v of l)
    if (isList(v)) flattened(v, at, out);
    else out.push(v);
  return out;
}

/** A stable merge sort: a `precedes` that makes no order still ends. */
function mergeSort(l: List, before: (a: Value, b: Value) => boolean, at: CallSite): Value[] {
  if (l.length < 2) return [...l];
  const mid = l.length >> 1;
  const [a, b] = [mergeSort(l.slice(0, mid), before, at), mergeSort(l.slice(mid), before, at)];
  at.spend(l.length);
  const out: Value[] = [];
  let [i, j] = [0, 0];
  while (i < a.length && j < b.length) out.push(before(b[j]!, a[i]!) ? b[j++]! : a[i++]!);
  return [...out, ...a.slice(i), ...b.slice(j)];
}

export const LISTS: Record<string, Overload[]> = {
  count: [overload("list: list -> number", ([l]: [List]) => Num.of(l.length))],
  sum: overNumbers(null, (ns) => finite(total(ns))),
  product: overNumbers(null, (ns) => finite(ns.reduce((a, b) => a.times(b)))),
  mean: overNumbers(null, (ns) => finite(mean(ns))),
  median: overNumbers(null, (ns) => {
    const s = sorted(ns);
    const mid = s.length >> 1;
    return s.length % 2 ? s[mid]! : s[mid - 1]!.plus(s[mid]!).div(Num.of(2));
  }),
  // Of a sample: divided by n - 1 (DMN 1.5, table 77).
  stddev: overNumbers(null, (ns) => {
    if (ns.length < 2) return null;
    const m = mean(ns);
    return finite(
      total(ns.map((n) => n.minus(m).times(n.minus(m))))
        .div(Num.of(ns.length - 1))
        .sqrt(),
    );
  }),
  mode: [
    overload("list: any... -> list of number", (args: List, at) => {
      const ns = numbers(args, at);
      if (ns === null) return null;
      const times = new Map<string, number>();
      for (const n of ns) times.set(n.toFixed(), (times.get(n.toFixed()) ?? 0) + 1);
      const most = Math.max(0, ...times.values());
      return sorted([...times].filter(([, c]) => c === most).map(([n]) => Num.of(n)));
    }),
  ],
  min: extreme(-1),
  max: extreme(1),
  all: yesNos(false),
  any: yesNos(true),
  "list contains": [
    overload("list: list, element: any -> yesno", ([l, e]: [List, Value]) => l.some((x) => same(x, e))),
  ],
  sublist: [
    overload(
      "list: list, start position: number, length?: number -> list",
      ([l, from, length]: [List, N, N | undefined], at) => {
        const start = position(l, from, at);
        if (start === null) return null;
        if (length === undefined) return l.slice(start);
        const n = length.isInteger() ? length.toNumber() : -1;
        return n < 1 || start + n > l.length
          ? at.say(`From position ${from.toFixed()} there are not ${length.toFixed()} items.`)
          : l.slice(start, start + n);
      },
      sameList,
    ),
  ],
  append: [
    overload(
      "list: list, item: any... -> list",
      ([l, ...more]: [List, ...Value[]]) => [...l, ...more],
      mixedList(1),
    ),
  ],
  concatenate: [overload("list: list... -> list", (ls: List[]) => ls.flat() as Value[], mixedList(1, true))],
  "insert before": [
    overload(
      "list: list, position: number, newItem: any -> list",
      ([l, n, v]: [List, N, Value], at) => {
        const i = position(l, n, at);
        return i === null ? null : [...l.slice(0, i), v, ...l.slice(i)];
      },
      mixedList(2),
    ),
  ],
  remove: [
    overload(
      "list: list, position: number -> list",
      ([l, n]: [List, N], at) => {
        const i = position(l, n, at);
        return i === null ? null : [...l.slice(0, i), ...l.slice(i + 1)];
      },
      sameList,
    ),
  ],
  "list replace": [
    overload(
      "list: list, position: number, newItem: any -> list",
      ([l, n, v]: [List, N, Value], at) => {
        const i = position(l, n, at);
        return i === null ? null : l.map((x, k) => (k === i ? v : x));
      },
      mixedList(2),
    ),
    overload(
      "list: list, match: function, newItem: any -> list",
      ([l, f, v]: [List, FunctionValue, Value], at) => {
        const out: Value[] = [];
        for (const x of l) {
          const hit = at.call(f, [x, v]);
          if (typeof hit !== "boolean")
            return at.say("The function for what to replace must give yes or no.");
          out.push(hit ? v : x);
        }
        return out;
      },
      mixedList(2),
    ),
  ],
  reverse: [overload("list: list -> list", ([l]: [List]) => [...l].reverse(), sameList)],
  "index of": [
    overload("list: list, match: any -> list of number", ([l, m]: [List, Value]) =>
      l.flatMap((x, i) => (same(x, m) ? [Num.of(i + 1)] : [])),
    ),
  ],
  union: [
    overload(
      "list: list... -> list",
      (ls: List[], at) => unique(ls.flat() as Value[], at),
      mixedList(1, true),
    ),
  ],
  "distinct values": [overload("list: list -> list", ([l]: [List], at) => unique(l, at), sameList)],
  "duplicate values": [
    overload(
      "list: list -> list",
      ([l]: [List], at) => {
        at.spend(l.length * l.length);
        return unique(
          l.filter((x, i) => l.some((y, k) => k !== i && same(x, y))),
          at,
        );
      },
      sameList,
    ),
  ],
  flatten: [
    overload(
      "list: list -> list",
      ([l]: [List], at) => flattened(l, at),
      () => listOf(ANY),
    ),
  ],
  sort: [
    overload(
      "list: list, precedes?: function -> list",
      ([l, f]: [List, FunctionValue | undefined], at) => {
        if (f) return mergeSort(l, (a, b) => at.call(f, [a, b]) === true, at);
        const [some] = l;
        if (l.some((v) => compareValues(v, some ?? null) === null))
          return at.say(
            "These values have no order; say how: sort(Lines, function(a, b) a.Price < b.Price).",
          );
        return mergeSort(l, (a, b) => compareValues(a, b)! < 0, at);
      },
      sameList,
    ),
  ],
};

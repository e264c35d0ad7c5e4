import { Temporal } from "temporal-polyfill";
import type { Node } from "./ast";
import { candidates } from "./calls";
import type { Checking } from "./checking";
import { compile, evaluate } from "./compile";
import { FUNCTIONS, type FormulaFunction } from "./functions";
import type { Levels } from "./levels";
import { nearest } from "./nearest";
import type { FormulaProblem } from "./problem";
import { environment } from "./run";
import { accepts, inputs } from "./typeRules";
import { ANY, fits, joinTypes, listOf, NULL, typeInWords, type Type } from "./types";

type Call = Extract<Node, { k: "call" }>;

/** The type a call comes to, its mistakes told and what it reads noted. */
export function callType(c: Checking, n: Call, levels: Levels): Type {
  const fn = FUNCTIONS.get(n.fn);
  const local = levels
    .map((l) => (Object.hasOwn(l.names, n.fn) ? l : null))
    .find((l) => l?.names[n.fn]?.t === "function" || (!fn && l?.names[n.fn]?.t === "any"));
  const welcome = c.functionsWelcome;
  c.functionsWelcome = fn?.overloads.some((o) => o.params.some((p) => p.type.t === "function")) ?? true;
  const types = argumentTypes(c, n, fn, levels);
  c.functionsWelcome = welcome;
  if (local) {
    c.reads.read({ name: n.fn, ...headOf(n), target: local.target(n.fn) });
    const t = local.names[n.fn]!;
    return t.t === "function" ? t.result : ANY;
  }
  if (!fn) {
    const near = nearest(n.fn, [...FUNCTIONS.keys()]);
    c.reads.read({ name: n.fn, ...headOf(n), target: { t: "nothing" } });
    c.say(
      headOf(n),
      "unknown-function",
      `There is no function "${n.fn}".${near ? ` Did you mean "${near}"?` : ""}`,
      near ?? undefined,
    );
    return ANY;
  }
  const ways = candidates(fn, types.length, n.names);
  if (ways.length === 0) {
    wrongCount(c, n, fn, types.length);
    return ANY;
  }
  wholesOf(c, n, fn, types, ways[0]!.order);
  return nearestWay(c, n, fn, types, ways);
}

const headOf = (n: Call) => ({ from: n.from, to: n.from + n.fn.length });

/** What functions hand to a function they are given: `sort(Lines, function(a, b) …)` gives it two lines. */
export const GIVEN_TO: Readonly<Record<string, (item: Type, types: readonly Type[]) => Type[]>> = {
  sort: (item) => [item, item],
  "list replace": (item, types) => [item, types.at(-1) ?? ANY],
  "total by": (item) => [item],
};

function argumentTypes(c: Checking, n: Call, fn: FormulaFunction | undefined, levels: Levels): Type[] {
  const given = fn && GIVEN_TO[n.fn];
  if (!given) return n.args.map((a) => c.typeOf(a, levels));
  // What stands beside a function is looked at first: it says what the function will be given.
  const types: Type[] = n.args.map((a) => (a.k === "fn" ? ANY : c.typeOf(a, levels)));
  const list = n.names ? n.names.indexOf("list") : 0;
  const of = types[list] ?? ANY;
  const hints = given(of.t === "list" ? of.of : of, types);
  return n.args.map((a, i) => (a.k === "fn" ? c.fn(a, levels, hints) : types[i]!));
}

function wrongCount(c: Checking, n: Call, fn: FormulaFunction, given: number) {
  const odd = n.names?.find((x) => !fn.overloads.some((o) => o.params.some((q) => q.name === x)));
  if (odd)
    c.say(headOf(n), "wrong-count", `"${n.fn}" has no input called "${odd}". It takes: ${inputs(fn)}.`);
  else
    c.say(
      n,
      "wrong-count",
      `"${n.fn}" takes ${inputs(fn)} in its brackets; here ${given === 1 ? "is 1" : `are ${given}`}.`,
    );
}

/** Functions that hand groups of values on and never look at the names of their entries. */
const HAND_ON: ReadonlySet<string> = new Set([
  "count",
  "sublist",
  "append",
  "concatenate",
  "insert before",
  "remove",
  "list replace",
  "reverse",
  "flatten",
  "sort",
  "is empty",
  "total by",
  "manager of",
]);
/** Functions that only hold the items they are given against each other. */
const COMPARE: ReadonlySet<string> = new Set([
  "list contains",
  "index of",
  "union",
  "distinct values",
  "duplicate values",
  "is",
]);

/** Notes where a call looks into whole groups of values, and names it is given as texts. */
function wholesOf(
  c: Checking,
  n: Call,
  fn: FormulaFunction,
  types: readonly Type[],
  order: readonly number[],
) {
  const at = (i: number): { node: Node; type: Type } | null => {
    const k = order[i];
    return k === undefined || k < 0 ? null : { node: n.args[k]!, type: types[k]! };
  };
  if (n.fn === "get value") return keyed(c, at(0), at(1) ? [at(1)!.node] : []);
  if (n.fn === "total by") {
    const keys = [at(1), at(2)].flatMap((k) => (k && k.type.t !== "function" ? [k.node] : []));
    return keyed(c, at(0), keys);
  }
  if (HAND_ON.has(n.fn)) return;
  if (COMPARE.has(n.fn)) {
    const lists = n.args.map((a, i) => ({ node: a, type: itemsOf(types[i]!) }));
    for (const { node, type } of lists) c.reads.compared(node, lists[0]!.type, type);
    return;
  }
  // A number or a date cannot be a group of values, so only what may be one counts.
  const loose = (t: Type): boolean =>
    t.t === "any" || t.t === "context" || ((t.t === "list" || t.t === "range") && loose(t.of));
  n.args.forEach((a, i) => {
    const k = order.indexOf(i);
    const params = fn.overloads.map((o) => o.params[Math.min(k < 0 ? i : k, o.params.length - 1)]);
    if (params.some((p) => p && loose(p.type) && !isPerson(p.type))) c.reads.whole(a, types[i]!);
  });
}
const itemsOf = (t: Type): Type => (t.t === "list" ? t.of : t);
const isPerson = (t: Type): boolean =>
  t.t === "list" ? isPerson(t.of) : t.t === "context" && t.what === "person";

/** Names given as texts: known where they are written out, else any name may be meant. */
function keyed(c: Checking, of: { node: Node; type: Type } | null, keys: readonly Node[]) {
  if (!of) return;
  for (const key of keys) {
    const names = key.k === "list" ? key.items : [key];
    if (!names.every((k) => k.k === "str")) {
      c.reads.whole(of.node, of.type);
      continue;
    }
    let type = itemsOf(of.type);
    for (const k of names)
      // Between its quotes; a text with signs that are written otherwise than they read is no name of a field.
      type = c.entry(type, k.text, { from: k.from + 1, to: k.to - 1 }, c.written(of.node), true);
  }
}

/** The first way to call whose kinds fit; where none fits, the first mistake of the nearest one is told. */
function nearestWay(
  c: Checking,
  n: Call,
  fn: FormulaFunction,
  types: readonly Type[],
  ways: ReturnType<typeof candidates>,
): Type {
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
  if (result) {
    const before = c.problems.length;
    oddItems(c, n, types);
    if (c.problems.length === before) comesToNothing(c, n);
    return n.fn === "get value" ? valueType(n, types, ways[0]!.order, result) : result;
  }
  c.say(nearestWay!.at, "wrong-type", nearestWay!.message);
  return typeof fn.overloads[0]!.result === "function" ? ANY : fn.overloads[0]!.result;
}

/** What is read by a written name is of that name's type. */
function valueType(n: Call, types: readonly Type[], order: readonly number[], otherwise: Type): Type {
  const [of, key] = [types[order[0]!], n.args[order[1]!]];
  if (key?.k !== "str" || of?.t !== "context" || of.open) return otherwise;
  return Object.hasOwn(of.fields, key.text) ? of.fields[key.text]! : otherwise;
}

const NUMBERS = new Set(["sum", "product", "mean", "median", "stddev", "mode"]);
const YES_NOS = new Set(["all", "any"]);

/** Functions that take a list or its items one by one, and want items of one kind. */
function oddItems(c: Checking, n: Call, types: readonly Type[]) {
  const single = n.args.length === 1 && types[0]!.t === "list";
  const items = single
    ? [{ at: n.args[0]!, type: itemsOf(types[0]!) }]
    : n.args.map((at, i) => ({ at, type: types[i]! }));
  const wants = (wanted: Type, what: string) => {
    const odd = items.find((i) => !fits(i.type, wanted));
    if (odd)
      c.say(
        odd.at,
        "wrong-type",
        `"${n.fn}" needs ${what}; "${c.written(odd.at)}" is ${typeInWords(single ? listOf(odd.type) : odd.type)}.`,
      );
  };
  if (NUMBERS.has(n.fn)) wants({ t: "number" }, "numbers");
  else if (YES_NOS.has(n.fn)) wants({ t: "yesno" }, "yes or no");
  else if (n.fn === "not") wants({ t: "yesno" }, "yes or no");
  else if (n.fn === "min" || n.fn === "max") {
    const odd = items.find((i) => ["context", "list", "yesno", "function", "range"].includes(i.type.t));
    const other = items.find((i) => !fits(i.type, items[0]!.type) && !fits(items[0]!.type, i.type));
    if (odd)
      c.say(
        odd.at,
        "wrong-type",
        `"${c.written(odd.at)}" is ${typeInWords(single ? listOf(odd.type) : odd.type)}; "${n.fn}" needs values that have an order.`,
      );
    else if (other)
      c.say(
        other.at,
        "wrong-type",
        `${typeInWords(items[0]!.type)} and ${typeInWords(other.type)} have no order between them.`,
      );
  }
}

/** What is written out does not depend on the day. */
const SOME_DAY = Temporal.ZonedDateTime.from("2000-01-01T00:00[UTC]");
const MAKERS = new Set(["date", "time", "date and time", "duration", "number", "years and months duration"]);

/** A call whose inputs are all written out comes to the same every time: where that is nothing, it is a mistake. */
function comesToNothing(c: Checking, n: Call) {
  if (!MAKERS.has(n.fn) || !n.args.every(written)) return;
  const notes: FormulaProblem[] = [];
  const env = { ...environment(new Map(), { now: SOME_DAY }), notes };
  if (evaluate(compile(n), env) === null && notes[0]) c.say(n, "wrong-type", notes[0].message);
}
const written = (n: Node): boolean =>
  n.k === "num" ||
  n.k === "str" ||
  (n.k === "neg" && written(n.of)) ||
  (n.k === "list" && n.items.every(written));

import { sizeOf, type Node, type TypeName } from "./ast";
import type { Bound, CodeMaker } from "./binding";
import { coerced, FUNCTIONS, type FormulaFunction, type Overload } from "./functions";
import { instanceOf } from "./instance";
import { quietly } from "./reasons";
import { MAX_TEXT, OutOfFuel, type Code, type Run } from "./run";
import { costOf } from "./functions/costs";
import { typeInWords } from "./types";
import { FunctionValue, isContext, isFunction, isList, type Value } from "./values";

interface Candidate {
  overload: Overload;
  /** For each parameter the place of its argument; -1 where it is left out. */
  order: readonly number[];
}

/** The ways of calling that fit in number or names (DMN 1.5, 10.3.2.9): which one runs is told by the values. */
export function candidates(fn: FormulaFunction, count: number, names?: readonly string[]): Candidate[] {
  return fn.overloads.flatMap((overload): Candidate[] => {
    const { params, many } = overload;
    if (names) {
      if (!names.every((x) => params.some((p) => p.name === x)) || new Set(names).size !== names.length)
        return [];
      const order = params.map((p) => names.indexOf(p.name));
      return order.every((i, k) => i >= 0 || params[k]!.optional) ? [{ overload, order }] : [];
    }
    const least = params.filter((p) => !p.optional).length;
    if (count < least || (!many && count > params.length)) return [];
    return [
      {
        overload,
        order: Array.from({ length: Math.max(count, params.length) }, (_, i) => (i < count ? i : -1)),
      },
    ];
  });
}

function argsFor({ overload, order }: Candidate, given: readonly Value[]): Value[] | null {
  const { params } = overload;
  const out: (Value | undefined)[] = [];
  for (let k = 0; k < order.length; k++) {
    const p = params[Math.min(k, params.length - 1)]!;
    const i = order[k]!;
    if (i < 0) {
      out.push(undefined);
      continue;
    }
    const v = given[i]!;
    if (v === null && p.nullable) {
      out.push(null);
      continue;
    }
    const fit = coerced(v, p.type);
    if (fit === undefined) return null;
    out.push(fit);
  }
  return out as Value[];
}

function runBuiltin(
  fn: FormulaFunction,
  ways: readonly Candidate[],
  given: readonly Value[],
  run: Run,
  at: { from: number; to: number },
): Value {
  const cost = costOf(fn.name);
  let work = cost.call;
  for (const v of given)
    if (isList(v)) work += v.length * cost.item;
    else if (typeof v === "string") work += v.length >> 1;
    else if (isContext(v)) work += v.size;
  run.spend(work);
  for (const way of ways) {
    const args = argsFor(way, given);
    if (args === null) continue;
    run.at = at;
    const out = way.overload.run(args as never, run);
    if (typeof out === "string" && out.length > MAX_TEXT) throw new OutOfFuel();
    return out;
  }
  if (!run.env.notes) return null;
  return given.some((v) => v === null || (isList(v) && v.includes(null)))
    ? run.note(at, `"${fn.name}" was given something empty.`, "was-empty")
    : run.note(at, `"${fn.name}" needs ${wanted(fn)}.`);
}
const wanted = (fn: FormulaFunction): string =>
  fn.overloads
    .map(
      (o) =>
        o.params
          .filter((p) => !p.optional)
          .map((p) => `${typeInWords(p.type)} (${p.name})`)
          .join(" and ") || "nothing",
    )
    .join(", or ");

/** A built-in named without brackets: a value that can be handed on, to `sort` for example. */
export const builtinValue = (fn: FormulaFunction, run: Run): FunctionValue =>
  new FunctionValue(
    fn.overloads[0]!.params.map((p) => p.name),
    (args) => runBuiltin(fn, candidates(fn, args.length), args, run, run.at),
  );

function invoke(
  f: Value,
  args: readonly Value[],
  names: readonly string[] | undefined,
  run: Run,
  at: { from: number; to: number },
): Value {
  if (!isFunction(f)) return run.note(at, "This is not a function.");
  if (!names)
    return args.length === f.params.length || f.params.length === 0
      ? run.call(f, args)
      : run.note(at, `The function takes ${f.params.length} values; here are ${args.length}.`);
  const ordered = f.params.map((p) => names.indexOf(p));
  return ordered.includes(-1) || names.length !== f.params.length
    ? run.note(at, `The function takes ${f.params.join(", ")}.`)
    : run.call(
        f,
        ordered.map((i) => args[i]!),
      );
}

/** Functions that ask whether a value is there, as a comparison with null does. */
const ASKING = new Set(["is empty"]);

export function callCode(c: CodeMaker, n: Extract<Node, { k: "call" }>, bound: Bound): Code {
  const codes = n.args.map((a): Code => {
    const code = c.code(a, bound);
    return ASKING.has(n.fn) ? (s) => quietly(s, code) : code;
  });
  const head = { from: n.from, to: n.from + n.fn.length, name: n.fn };
  const builtin = FUNCTIONS.get(n.fn);
  // A name given inside the formula that holds a function comes first; one that holds anything else, and no field,
  // ever hides a built-in.
  const mayHide = bound.some((b) => b.item || b.name === n.fn);
  const hiding = mayHide ? c.lookUp(n.fn, bound, () => null) : null;
  const named = builtin ? hiding : c.name(head, bound);
  const ways = builtin ? candidates(builtin, n.args.length, n.names) : [];
  return (s) => {
    const args = codes.map((code) => code(s));
    if (named) {
      const f = named(s);
      if (isFunction(f)) return invoke(f, args, n.names, s.run, n);
      if (!builtin) return s.run.note(head, `There is no function "${n.fn}".`);
    }
    if (ways.length === 0) return s.run.note(n, `"${n.fn}" cannot be called with these.`);
    return runBuiltin(builtin!, ways, args, s.run, n);
  };
}

export function invokeCode(c: CodeMaker, n: Extract<Node, { k: "invoke" }>, bound: Bound): Code {
  const of = c.code(n.of, bound);
  const codes = n.args.map((a) => c.code(a, bound));
  return (s) =>
    invoke(
      of(s),
      codes.map((code) => code(s)),
      n.names,
      s.run,
      n,
    );
}

export function functionCode(c: CodeMaker, n: Extract<Node, { k: "fn" }>, bound: Bound): Code {
  const slots = n.params.map(() => c.slots++);
  const body = c.code(n.body, [
    ...n.params.map((p, i) => ({ slot: slots[i]!, item: false, name: p.name })),
    ...bound,
  ]);
  const types: (TypeName | undefined)[] = n.params.map((p) => p.type);
  const names = n.params.map((p) => p.name);
  const cost = sizeOf(n.body);
  return (s) => {
    // Loops go on and change their variables; the function keeps them as they were when it was made.
    const kept = [...s.locals];
    return new FunctionValue(names, (args) => {
      s.run.spend(cost + kept.length);
      const locals = [...kept];
      for (let i = 0; i < slots.length; i++) {
        const v = args[i] ?? null;
        const type = types[i];
        if (type && v !== null && !instanceOf(v, type))
          return s.run.note(n, `${names[i]} is not of the type the function asks for.`);
        locals[slots[i]!] = v;
      }
      return body({ run: s.run, locals });
    });
  };
}

import { Temporal } from "temporal-polyfill";
import {
  childNodes,
  compile,
  environment,
  evaluate,
  isDate,
  isNum,
  Num,
  saidValue,
  type Node,
  type Program,
  type Type,
  type Value,
} from "../expression";

/** A condition over one name, or one entry of what a name stands for ("Handling.Way"), and written values: all it can come to shows at values around those. */
export interface SingleName {
  name: string;
  program: Program;
  /** The written values it holds the name against. */
  borders: readonly Value[];
  /** More or less is asked, and not only equal. */
  ordered: boolean;
}

/** What may stand for the name: the values its field can have. */
export interface Domain {
  type: Type;
  /** The smallest difference between two numbers; absent where there is none. */
  grain?: string;
  min?: Value;
  max?: Value;
}

const SOME_DAY = Temporal.PlainDate.from("2026-01-01");
const NOW = Temporal.ZonedDateTime.from("2026-01-01T00:00[UTC]");

const read = new WeakMap<Node, SingleName | null>();

/** Reads a condition as one over a single name; null where it hangs on anything else, so that nothing can be known. */
export function singleName(ast: Node): SingleName | null {
  let known = read.get(ast);
  if (known === undefined) read.set(ast, (known = readSingle(ast)));
  return known;
}

function readSingle(ast: Node): SingleName | null {
  const names = new Set<string>();
  const borders: Value[] = [];
  const written = (n: Node): boolean => {
    const is = writtenValue(n);
    if (is) borders.push(is.value);
    return is !== null;
  };
  const named = (n: Node): boolean => {
    if (n.k === "name") names.add(n.name);
    else if (n.k === "path" && n.of.k === "name") names.add(`${n.of.name}.${n.name}`);
    else return false;
    return true;
  };
  const test = (n: Node): boolean => {
    if (n.k === "test") return written(n.right);
    if (n.k === "range") return written(n.low) && written(n.high);
    if (n.k === "list") return n.items.every(test);
    return written(n);
  };
  const known = (n: Node): boolean => {
    if (n.k === "and" || n.k === "or") return known(n.left) && known(n.right);
    if (n.k === "bool") return true;
    if (n.k === "name" || n.k === "path") return named(n);
    if (n.k === "cmp") return (named(n.left) && written(n.right)) || (written(n.left) && named(n.right));
    if (n.k === "between") return named(n.of) && written(n.low) && written(n.high);
    if (n.k === "in") return named(n.of) && n.tests.every(test);
    if (n.k !== "call" || n.names || n.args.length !== 1) return false;
    return n.fn === "not" ? known(n.args[0]!) : n.fn === "is empty" && named(n.args[0]!);
  };
  return known(ast) && names.size === 1
    ? { name: [...names][0]!, program: compile(ast), borders, ordered: asksOrder(ast) }
    : null;
}

/** Whether more or less is asked anywhere, and not only equal. */
const asksOrder = (n: Node): boolean =>
  n.k === "between" ||
  n.k === "range" ||
  ((n.k === "cmp" || n.k === "test") && n.op !== "=" && n.op !== "!=") ||
  childNodes(n).some(asksOrder);

const WRITTEN: ReadonlySet<Node["k"]> = new Set(["num", "str", "bool", "null", "at"]);
const isWritten = (n: Node): boolean => {
  if (WRITTEN.has(n.k)) return true;
  if (n.k === "neg") return isWritten(n.of);
  return n.k === "call" && !n.names && (n.fn === "date" || n.fn === "number") && n.args.every(isWritten);
};

const writtenOut = new WeakMap<Node, { value: Value } | null>();

/** What stands there, where it is written out and hangs on nothing; null where it does. */
export function writtenValue(n: Node): { value: Value } | null {
  let known = writtenOut.get(n);
  if (known === undefined)
    writtenOut.set(
      n,
      (known = isWritten(n) ? { value: evaluate(compile(n), environment(new Map(), { now: NOW })) } : null),
    );
  return known;
}

/**
 * Values at which conditions over one name can differ: each border, what lies beside and between them, every choice.
 * Null where the kind of value has no such set. Nothing (null) is not among them.
 */
export function samplesFor(domain: Domain, borders: readonly Value[], ordered: boolean): Value[] | null {
  const inside = (v: Value): boolean => {
    if (isNum(v))
      return (
        !(isNum(domain.min ?? null) && v.comparedTo(domain.min as Num) < 0) &&
        !(isNum(domain.max ?? null) && v.comparedTo(domain.max as Num) > 0)
      );
    if (isDate(v))
      return (
        !(
          isDate(domain.min ?? null) && Temporal.PlainDate.compare(v, domain.min as Temporal.PlainDate) < 0
        ) &&
        !(isDate(domain.max ?? null) && Temporal.PlainDate.compare(v, domain.max as Temporal.PlainDate) > 0)
      );
    return true;
  };
  const { type } = domain;
  if (type.t === "yesno") return [true, false];
  if (type.t === "number")
    return numbersAround(
      [...borders, domain.min ?? domain.max ?? Num.of(0), domain.max].filter(isNum),
      domain.grain,
    ).filter(inside);
  if (type.t === "date")
    return [...borders, domain.min ?? domain.max ?? SOME_DAY, domain.max]
      .filter(isDate)
      .flatMap((d) => [d.subtract({ days: 1 }), d, d.add({ days: 1 })])
      .filter(inside);
  if (type.t !== "text") return null;
  if (type.options) return [...type.options];
  // Between two texts there are always others, which no list of them holds.
  if (ordered) return null;
  const texts = borders.filter((b) => typeof b === "string");
  return [...new Set([...texts, `${texts.join("")} and more`])];
}

function numbersAround(borders: readonly Num[], grain: string | undefined): Num[] {
  const sorted = [...borders].sort((a, b) => a.comparedTo(b));
  const two = Num.of(2);
  const between = sorted.slice(1).map((b, i) => b.plus(sorted[i]!).div(two));
  const step = Num.of(grain ?? "1");
  const beside = sorted.flatMap((b) => [b.minus(step), b, b.plus(step)]);
  const fits = (n: Num) => grain === undefined || n.times(Num.of(100)).isInteger();
  return [...beside, ...between].filter(fits);
}

/** Whether a condition holds for a value of its name; empty and unclear count as no, as they do when a request is under way. */
export const holdsFor = (c: SingleName, value: Value): boolean =>
  evaluate(c.program, environment(namesOf(c.name, value), { now: NOW })) === true;

function namesOf(name: string, value: Value): ReadonlyMap<string, Value> {
  const [first, entry] = name.split(".");
  return new Map([[first!, entry === undefined ? value : new Map([[entry, value]])]]);
}

export const exampleText = (v: Value): string => (typeof v === "string" ? `“${v}”` : saidValue(v));

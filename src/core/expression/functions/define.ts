import { DaysTime, isDaysTime, isYearsMonths, YearsMonths } from "../durations";
import { isDate, isDateTime, isTime } from "../moments";
import { isNum } from "../numbers";
import type { Surroundings } from "../surroundings";
import {
  ANY,
  DATE,
  DATETIME,
  DAYS,
  DURATION,
  listOf,
  MONTHS,
  NUMBER,
  PERSON,
  rangeOf,
  TEXT,
  TIME,
  YESNO,
  type Type,
} from "../types";
import { isContext, isFunction, isList, isRange, type FunctionValue, type Value } from "../values";

/** The longest text a formula may make. */
export const MAX_TEXT = 200_000;
export const TOO_LONG = "The text grows beyond 200,000 characters.";

export interface Param {
  name: string;
  type: Type;
  optional: boolean;
  /** Null may be given and means something. */
  nullable: boolean;
}

/** What a function may use beside its arguments. */
export interface CallSite extends Surroundings {
  /** Takes work from the formula's allowance; throws where it is used up. */
  spend(steps: number): void;
  /** Says why the result is nothing, in a sentence. */
  say(reason: string): null;
  /** Says so where the result is nothing only because something it was given is empty. */
  wasEmpty(reason: string): null;
  call(fn: FunctionValue, args: readonly Value[]): Value;
}

/** One way to call a function. `run` gets arguments of the kinds it asks for: nothing needs checking again. */
export interface Overload {
  params: readonly Param[];
  /** The last parameter may be given any number of times. */
  many: boolean;
  result: Type | ((args: readonly Type[]) => Type);
  run(args: never, at: CallSite): Value;
}

export interface FormulaFunction {
  name: string;
  overloads: Overload[];
}

const TYPES: Record<string, Type> = {
  any: ANY,
  text: TEXT,
  number: NUMBER,
  yesno: YESNO,
  date: DATE,
  time: TIME,
  datetime: DATETIME,
  days: DAYS,
  months: MONTHS,
  duration: DURATION,
  person: PERSON,
  list: listOf(ANY),
  "list of number": listOf(NUMBER),
  "list of text": listOf(TEXT),
  "list of yesno": listOf(YESNO),
  "list of list": listOf(listOf(ANY)),
  range: rangeOf(ANY),
  context: { t: "context", fields: {} },
  "list of context": listOf({ t: "context", fields: {} }),
  "list of person": listOf(PERSON),
  function: { t: "function", params: [], result: ANY },
};

/**
 * Reads a signature such as "string: text, length?: number -> text". A `?` behind the name may be left out, a `?`
 * behind the type may be null, `...` behind the type may be given many times.
 */
export function overload(
  signature: string,
  run: (args: never, at: CallSite) => Value,
  result?: (args: readonly Type[]) => Type,
): Overload {
  const [left, right] = signature.split(" -> ") as [string, string];
  let many = false;
  const params =
    left.trim() === ""
      ? []
      : left.split(", ").map((part): Param => {
          const [name, kind] = part.split(": ") as [string, string];
          if (kind.endsWith("...")) many = true;
          const type = TYPES[kind.replace(/\.\.\.|\?/g, "")];
          if (!type) throw new Error(`no type ${kind} in ${signature}`);
          return {
            name: name.replace("?", ""),
            type,
            optional: name.endsWith("?"),
            nullable: kind.includes("?") || type.t === "any",
          };
        });
  return { params, many, result: result ?? TYPES[right.trim()]!, run };
}

/** Whether a value is of a parameter's kind; only the outer kind is looked at, except for lists of one kind. */
export function isOf(v: Value, type: Type): boolean {
  switch (type.t) {
    case "any":
      return true;
    case "text":
      return typeof v === "string";
    case "number":
      return isNum(v);
    case "yesno":
      return typeof v === "boolean";
    case "date":
      return isDate(v);
    case "time":
      return isTime(v);
    case "datetime":
      return isDateTime(v);
    case "duration":
      if (type.kind === "days") return isDaysTime(v);
      if (type.kind === "months") return isYearsMonths(v);
      return v instanceof DaysTime || v instanceof YearsMonths;
    case "list":
      return isList(v) && (type.of.t === "any" || v.every((x) => x === null || isOf(x, type.of)));
    case "range":
      return isRange(v);
    case "context":
      return isContext(v);
    case "function":
      return isFunction(v);
    case "null":
      return v === null;
  }
}

/** An argument made to fit (DMN 1.5, 10.3.2.9.4): one item for a list of it, a list for one item; undefined when it cannot. */
export function coerced(v: Value, type: Type): Value | undefined {
  if (isOf(v, type)) return v;
  if (v === null) return undefined;
  if (type.t === "list") return isOf(v, type.of) ? [v] : undefined;
  if (isList(v) && v.length === 1 && v[0] !== null && isOf(v[0]!, type)) return v[0]!;
  if (type.t === "datetime" && isDate(v)) return v.toPlainDateTime();
  return undefined;
}

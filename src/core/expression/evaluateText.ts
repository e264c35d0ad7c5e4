import { Temporal } from "temporal-polyfill";
import { checkFormula } from "./check";
import { compile, evaluate } from "./compile";
import { isNum, Num } from "./numbers";
import type { Dialect } from "./parse";
import type { FormulaProblem } from "./problem";
import { environment } from "./run";
import type { Surroundings } from "./surroundings";
import { ANY, context, joinTypes, listOf, NULL, NUMBER, TEXT, YESNO, type Type } from "./types";
import { isContext, isList, valueText, type Value } from "./values";
import { attempt, instantFrom } from "./moments";

export interface TextResult {
  /** JSON-like: numbers where a JavaScript number holds them exactly, otherwise decimal text; dates, times, lengths and ranges as their text. */
  value: unknown;
  /** What is wrong with the text, and why parts of it came to nothing. */
  problems: FormulaProblem[];
}

export interface TextOptions {
  /** The moment `now()` and `today()` stand for; RFC 3339 text, a Date or epoch milliseconds. */
  now: Temporal.ZonedDateTime | Date | string | number;
  /** IANA zone, for example Europe/Dublin. */
  zone: string;
  /** `unary`: tests of the input that the context holds under `?`. */
  dialect?: Dialect;
  fuel?: number;
  around?: Omit<Surroundings, "now">;
}

/**
 * A formula from text to plain value in one call, for tests, scripts and the reference page. Never throws for
 * anything in the text or the context; a text that cannot be read gives null and says why.
 * @param data plain JSON-like names and values; deeper than 100 levels counts as nothing
 */
export function evaluateText(
  source: string,
  data: Readonly<Record<string, unknown>>,
  options: TextOptions,
): TextResult {
  const now = instantFrom(options.now, options.zone);
  if (!now)
    return {
      value: null,
      problems: [
        {
          code: "syntax",
          from: 0,
          to: 0,
          message: `"${String(options.now)}" in "${options.zone}" is no moment in a time zone; an example: 2026-03-03T10:00:00Z in Europe/Dublin.`,
        },
      ],
    };
  const names = new Map(Object.entries(data).map(([k, v]) => [k, fromPlain(v)]));
  const { ast, problems } = checkFormula(
    source,
    Object.fromEntries([...names].map(([k, v]) => [k, typeOfValue(v)])),
    undefined,
    options.dialect,
  );
  if (!ast) return { value: null, problems };
  const env = {
    ...environment(names, { ...options.around, now }, { left: options.fuel ?? 5_000_000 }),
    notes: [...problems],
  };
  const value = evaluate(compile(ast), env);
  const room = { left: MAX_PARTS };
  const plain = toPlain(value, room);
  if (room.left >= 0) return { value: plain, problems: env.notes };
  return {
    value: null,
    problems: [
      ...env.notes,
      {
        code: "too-much-work",
        from: 0,
        to: source.length,
        message: `The result has more than ${MAX_PARTS} parts.`,
      },
    ],
  };
}
const MAX_PARTS = 500_000;

const MAX_DEPTH = 100;

/** JSON-like data as values of formulas. */
export function fromPlain(v: unknown, depth = 0): Value {
  if (depth > MAX_DEPTH) return null;
  if (v === null || v === undefined) return null;
  if (typeof v === "string" || typeof v === "boolean") return v;
  if (typeof v === "number") return Number.isFinite(v) ? Num.of(v) : null;
  if (typeof v === "bigint") return Num.of(String(v));
  if (Array.isArray(v)) return v.map((x) => fromPlain(x, depth + 1));
  if (v instanceof Map) return new Map([...v].map(([k, x]) => [String(k), fromPlain(x, depth + 1)]));
  if (v instanceof Date)
    return attempt(() => Temporal.Instant.fromEpochMilliseconds(v.getTime()).toZonedDateTimeISO("UTC"));
  const proto: unknown = typeof v === "object" ? Object.getPrototypeOf(v) : undefined;
  if (proto === Object.prototype || proto === null)
    return new Map(Object.entries(v as object).map(([k, x]) => [k, fromPlain(x, depth + 1)]));
  // A value of ours, a date of Temporal for example.
  return typeof v === "object" ? (v as Value) : null;
}

function toPlain(v: Value, room: { left: number }): unknown {
  if (--room.left < 0) return null;
  if (v === null || typeof v === "string" || typeof v === "boolean") return v;
  if (isNum(v)) {
    const text = v.toFixed();
    const n = Number(text);
    return Num.of(n).comparedTo(v) === 0 && text.replace(/[-.]/g, "").replace(/^0+/, "").length <= 15
      ? n
      : text;
  }
  if (isList(v)) {
    const out: unknown[] = [];
    for (const x of v)
      if (room.left < 0) break;
      else out.push(toPlain(x, room));
    return out;
  }
  if (isContext(v)) {
    const out: [string, unknown][] = [];
    for (const [k, x] of v)
      if (room.left < 0) break;
      else out.push([k, toPlain(x, room)]);
    return Object.fromEntries(out);
  }
  return valueText(v);
}

function typeOfValue(v: Value): Type {
  if (v === null) return NULL;
  if (typeof v === "string") return TEXT;
  if (typeof v === "boolean") return YESNO;
  if (isNum(v)) return NUMBER;
  if (isList(v)) return listOf(v.slice(0, 1000).map(typeOfValue).reduce(both, NULL));
  if (isContext(v)) return context(Object.fromEntries([...v].map(([k, x]) => [k, typeOfValue(x)])));
  return ANY;
}
/** Lines of a list need not all have the same columns. */
const both = (a: Type, b: Type): Type =>
  a.t === "context" && b.t === "context"
    ? context(
        Object.fromEntries(
          [...new Set([...Object.keys(a.fields), ...Object.keys(b.fields)])].map((k) => [
            k,
            Object.hasOwn(a.fields, k) && Object.hasOwn(b.fields, k)
              ? both(a.fields[k]!, b.fields[k]!)
              : (a.fields[k] ?? b.fields[k])!,
          ]),
        ),
      )
    : joinTypes(a, b);

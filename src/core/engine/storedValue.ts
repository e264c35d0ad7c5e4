import {
  atLiteral,
  Entity,
  isContext,
  isDate,
  isList,
  isNum,
  Num,
  Unreachable,
  valueText,
  type Value,
} from "../expression";
import type { StoredValue } from "../kinds";
import type { EngineFacts } from "./facts";

/** Parts one kept value may have: beyond that it is no value to be kept, but a register. */
const MOST_PARTS = 20_000;
const DEEPEST = 20;

/** A value as plain data; null where it cannot be kept, which a function, a range and too much cannot. */
export function storedValue(v: Value): { kept: StoredValue } | null {
  let left = MOST_PARTS;
  const one = (x: Value, depth: number): StoredValue | undefined => {
    if (--left < 0 || depth > DEEPEST) return undefined;
    if (x === null || typeof x === "boolean" || typeof x === "string") return x;
    if (isNum(x)) return { num: x.toString() };
    if (x instanceof Entity) return { of: x.of, id: x.id };
    if (isList(x)) {
      const list = x.map((y) => one(y, depth + 1));
      return list.some((y) => y === undefined) ? undefined : { list: list as StoredValue[] };
    }
    if (isContext(x)) {
      const entries = [...x].map(([k, y]) => [k, one(y, depth + 1)] as const);
      return entries.some(([, y]) => y === undefined)
        ? undefined
        : { entries: entries as (readonly [string, StoredValue])[] };
    }
    // Dates, times and lengths; what is read back is what was kept, or it is not kept.
    const at = valueText(x);
    return isDate(x) || atLiteral(at) !== null ? { at } : undefined;
  };
  const kept = one(v, 0);
  return kept === undefined ? null : { kept };
}

/** A kept value as formulas read it. @param row a row of line items, null where it is not there any more */
export function valueOf(
  s: StoredValue,
  facts: EngineFacts,
  row: (lines: string, id: string) => Value,
): Value {
  if (s === null || typeof s !== "object") return s;
  if ("num" in s) return Num.of(s.num);
  if ("at" in s) return atLiteral(s.at);
  if ("of" in s) {
    if (s.of === "person") return facts.person(s.id);
    if (s.of === "file") return facts.file(s.id) ?? new Unreachable("file", s.id);
    return facts.record(s.of, s.id);
  }
  if ("lines" in s) return row(s.lines, s.row);
  if ("list" in s) return s.list.map((x) => valueOf(x, facts, row));
  return new Map(s.entries.map(([k, x]) => [k, valueOf(x, facts, row)]));
}

/** Every record and file a kept value leads to; of a file `register` is "file". */
export function recordsIn(s: StoredValue): { register: string; id: string }[] {
  if (s === null || typeof s !== "object") return [];
  if ("of" in s) return s.of === "person" ? [] : [{ register: s.of, id: s.id }];
  if ("list" in s) return s.list.flatMap(recordsIn);
  return "entries" in s ? s.entries.flatMap(([, x]) => recordsIn(x)) : [];
}

/** The same value with other files in the place of its own, by id; those that are not named stay. */
export function withFiles(s: StoredValue, files: ReadonlyMap<string, string>): StoredValue {
  if (s === null || typeof s !== "object") return s;
  if ("of" in s) return s.of === "file" ? { of: s.of, id: files.get(s.id) ?? s.id } : s;
  if ("list" in s) return { list: s.list.map((x) => withFiles(x, files)) };
  if ("entries" in s) return { entries: s.entries.map(([k, x]) => [k, withFiles(x, files)]) };
  return s;
}

/** Every row of line items a kept value leads to. */
export function rowsIn(s: StoredValue): { lines: string; row: string }[] {
  if (s === null || typeof s !== "object") return [];
  if ("lines" in s) return [s];
  if ("list" in s) return s.list.flatMap(rowsIn);
  return "entries" in s ? s.entries.flatMap(([, x]) => rowsIn(x)) : [];
}

/** The same without what somebody may have filled in; who and which records stay, as elsewhere. */
export function forgetStored(s: StoredValue): StoredValue {
  if (typeof s === "string") return "…";
  if (s === null || typeof s !== "object") return s;
  if ("num" in s || "at" in s) return null;
  if ("list" in s) return { list: s.list.map(forgetStored) };
  if ("entries" in s) return { entries: s.entries.map(([k, x]) => [k, forgetStored(x)]) };
  return s;
}

import type { Temporal } from "temporal-polyfill";
import { formatted } from "../format";
import { finite, isNum, Num, type Num as N } from "../numbers";
import { ANY, context, listOf, NUMBER } from "../types";
import {
  Entity,
  isContext,
  isFunction,
  isList,
  valueText,
  type ContextValue,
  type FunctionValue,
  type Value,
} from "../values";
import { overload, type CallSite, type Overload } from "./define";

const idOf = (v: ContextValue): string | null => (v instanceof Entity ? v.id : null);

/** A key or value of each line: the name of a column, or a function of the line. */
const picker =
  (by: Value, at: CallSite) =>
  (line: Value): Value => {
    if (isFunction(by)) return at.call(by, [line]);
    if (isContext(line) && typeof by === "string") return line.get(by) ?? null;
    return null;
  };

function totals(lines: readonly Value[], key: Value, value: Value, at: CallSite): Value {
  const [keyOf, valueOf] = [picker(key, at), picker(value, at)];
  const sums = new Map<string, { key: Value; total: N; count: number }>();
  for (const line of lines) {
    at.spend(2);
    const [k, v] = [keyOf(line), valueOf(line)];
    if (v !== null && !isNum(v))
      return at.say(`Only numbers can be added up; ${valueText(v).slice(0, 40)} is none.`);
    const name = `${typeof k} ${k instanceof Entity ? `${k.of} ${k.id}` : valueText(k)}`;
    const old = sums.get(name) ?? { key: k, total: Num.of(0), count: 0 };
    sums.set(name, { key: old.key, total: v === null ? old.total : old.total.plus(v), count: old.count + 1 });
  }
  return [...sums.values()].map(
    (s) =>
      new Map<string, Value>([
        ["key", s.key],
        ["total", finite(s.total)],
        ["count", Num.of(s.count)],
      ]),
  );
}

/** Beyond the standard, for office work; documented as ours in docs/formulas.md. */
export const OFFICE: Record<string, Overload[]> = {
  "is empty": [
    overload(
      "value: any -> yesno",
      ([v]: [Value]) => v === null || v === "" || (isList(v) && v.length === 0),
    ),
  ],
  "manager of": [
    overload("person: person -> person", ([p]: [ContextValue], at) => {
      const id = idOf(p);
      return (id && at.managerOf?.(id)) || at.wasEmpty("Nobody is known as this person's manager.");
    }),
  ],
  "holders of": [
    overload(
      "duty: text, place?: text? -> list of person",
      ([duty, place]: [string, string | null | undefined], at) => {
        if (!at.holdersOf) return at.say("Duties are not known here.");
        // A place that comes to nothing is no place, and not every place.
        return at.holdersOf(duty, place === undefined ? null : (place ?? ""));
      },
    ),
  ],
  "add working days": [
    overload("date: date, days: number -> date", ([d, n]: [Temporal.PlainDate, N], at) => {
      if (!n.isInteger() || n.abs().comparedTo(Num.of(100_000)) > 0)
        return at.say("Working days are a whole number, up to 100,000.");
      if (!at.working) return at.say("No working calendar is known here.");
      at.spend(Math.abs(n.toNumber()));
      return at.working.add(d, n.toNumber()) ?? at.say("That is beyond the working calendar.");
    }),
  ],
  "working days between": [
    overload("from: date, to: date -> number", ([a, b]: [Temporal.PlainDate, Temporal.PlainDate], at) => {
      if (!at.working) return at.say("No working calendar is known here.");
      at.spend(Math.abs(a.until(b).days));
      const n = at.working.between(a, b);
      return n === null ? at.say("That is beyond the working calendar.") : Num.of(n);
    }),
  ],
  format: [
    overload(
      "value: any, pattern: text, locale?: text? -> text",
      ([v, pattern, locale]: [Value, string, string | null | undefined], at) => {
        if (v === null) return null;
        const r = formatted(v, pattern, locale ?? "en-IE");
        return typeof r === "string" ? r : at.say(r.wrong);
      },
    ),
  ],
  "total by": (["text", "function"] as const).flatMap((k) =>
    (["text", "function"] as const).map((v) =>
      overload(
        `list: list, key: ${k}, value: ${v} -> list`,
        ([l, key, value]: [readonly Value[], string | FunctionValue, string | FunctionValue], at) =>
          totals(l, key, value, at),
        () => listOf(context({ key: ANY, total: NUMBER, count: NUMBER })),
      ),
    ),
  ),
};

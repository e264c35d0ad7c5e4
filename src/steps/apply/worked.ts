import { tableResult, type TableFace, type TableResult } from "@/core/decision";
import { INPUT, type Names, type Value } from "@/core/expression";
import { inputPlace, OTHERWISE, testPlace, valuePlace } from "./places";
import type { Apply } from "./shape";

/** What a table is worked out with: the names where it stands, and what its formulas come to. */
export interface Working {
  names(): Names;
  /** @throws where it cannot be worked out */
  value(place: string, text: string | undefined, names?: Names): Value;
}

export const inputValues = (s: Apply, w: Working): Value[] =>
  s.inputs.map((i) => w.value(inputPlace(i.id), i.formula));

/** The first input, from 0, that may not be empty and is; -1 for none. */
export const missingInput = (s: Apply, values: readonly Value[]): number =>
  s.inputs.findIndex((i, k) => i.needed && values[k] === null);

/** Each test and output of a table, with what its inputs came to. */
export function faceOf(s: Apply, w: Working, values: readonly Value[]): TableFace {
  const names = w.names();
  const tested = values.map((v): Names => ({ get: (n) => (n === INPUT ? v : names.get(n)) }));
  return {
    passes(rule, input) {
      const r = s.rules[rule]!;
      const { id } = s.inputs[input]!;
      const test = r.when.find((c) => c.input === id)?.test;
      // What comes to nothing does not hold, as a condition does not.
      return !test || w.value(testPlace(r.id, id), test, tested[input]!) === true;
    },
    output(rule, output) {
      const { id } = s.outputs[output]!;
      const of = rule === "otherwise" ? s.otherwise : s.rules[rule]!.then;
      const place = valuePlace(rule === "otherwise" ? OTHERWISE : s.rules[rule]!.id, id);
      return w.value(place, of?.find((c) => c.output === id)?.value);
    },
  };
}

export const worked = (s: Apply, w: Working, values: readonly Value[]): TableResult =>
  tableResult(s, faceOf(s, w, values));

import { KINDS } from "../../src/kinds";
import { Decimal } from "decimal.js";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  type FormData,
  type PreparedForm,
  type StoredRow,
} from "../../src/core/form";

/** Measures keystrokes in a large form, and the same sums in plain TypeScript with the same decimals, side by side. */
function measure(form: PreparedForm, data: FormData, rounds: number): { form: number[]; plain: number[] } {
  const program = compileForm(form, KINDS.fields);
  const facts = factsFrom(
    { people: {}, registers: {}, records: {} },
    { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[UTC]") },
    KINDS.fields,
  );
  const out = { form: [] as number[], plain: [] as number[] };
  const Num = Decimal.clone({ precision: 34, rounding: 6 });
  const access = () => "edit" as const;
  let rows = data["lines"] as StoredRow[];
  for (let i = 0; i < rounds; i++) {
    rows = rows.map((r, k) => (k === i % 500 ? { ...r, qty: String((i % 8) + 1) } : r));
    const typed = { ...data, lines: rows };
    let t = performance.now();
    evaluateForm(program, typed, access, facts);
    out.form.push(performance.now() - t);
    t = performance.now();
    let sum = new Num(0);
    for (const r of rows) {
      const line = new Num(r["qty"] as string).times(new Num(r["price"] as string)).toDecimalPlaces(2, 4);
      sum = sum.plus(line);
      line.toFixed();
    }
    for (let s = 0, w = new Num(0); s < 24; s++) w = w.plus(new Num(data[`n${s}`] as string).times("1.21"));
    out.plain.push(performance.now() - t);
  }
  return out;
}
(globalThis as unknown as { measure: typeof measure }).measure = measure;

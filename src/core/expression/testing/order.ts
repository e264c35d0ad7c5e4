import { Temporal } from "temporal-polyfill";
import {
  compile,
  context,
  DATE,
  environment,
  evaluate,
  listOf,
  Num,
  NUMBER,
  parseFormula,
  TEXT,
  valueText,
  YESNO,
  type Scope,
  type Type,
  type Value,
} from "..";

/** Values of a made-up order, to try formulas on. */
export const scope: Scope = {
  Total: NUMBER,
  Urgent: YESNO,
  "Insured value": NUMBER,
  Reason: TEXT,
  Due: DATE,
  "tax in percent": NUMBER,
  Count: NUMBER,
  Lines: listOf({
    ...context({ Item: TEXT, Quantity: NUMBER, "Unit price": NUMBER }),
    rows: "Lines",
  } as Type),
  Store: context({ id: TEXT, name: TEXT, "risk grade": TEXT }, "stores"),
};
export const line = (i: string, q: number, p: string): Value =>
  new Map<string, Value>([
    ["Item", i],
    ["Quantity", Num.of(q)],
    ["Unit price", Num.of(p)],
  ]);
export const names = new Map<string, Value>([
  ["Total", Num.of("612.40")],
  ["Urgent", false],
  ["Insured value", Num.of(0.1)],
  ["Reason", "frost"],
  ["Due", Temporal.PlainDate.from("2026-03-01")],
  ["tax in percent", Num.of(23)],
  ["Count", null],
  ["Lines", [line("gloves", 10, "3.15"), line("tissue", 2, "14.00")]],
  [
    "Store",
    new Map<string, Value>([
      ["id", "4"],
      ["name", "Cold room"],
      ["risk grade", "high"],
    ]),
  ],
]);
export const env = () =>
  environment(names, { now: Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]") });
export const run = (text: string) => {
  const { ast, problems } = parseFormula(text, scope);
  if (!ast) throw new Error(problems[0]!.message);
  return evaluate(compile(ast), env());
};
export const shown = (text: string) => valueText(run(text));

import { Temporal } from "temporal-polyfill";
import { compile, environment, evaluate, parseFormula, readText, templateText } from ".";

const NOW = Temporal.ZonedDateTime.from("2026-11-26T10:00[Europe/Dublin]");
const value = (formula: string) => {
  const { ast } = parseFormula(formula, {});
  if (!ast) throw new Error(`cannot read ${formula}`);
  return evaluate(compile(ast), environment({ get: () => undefined }, { now: NOW }));
};

it.each([
  ['date("2026-11-27")', "Fri 27 Nov 2026"],
  ['date("0044-03-15")', "Tue 15 Mar 44"],
  ['date and time("2026-11-27T09:05:30")', "Fri 27 Nov 2026, 09:05"],
  ['date and time("2026-11-27T09:05:30@Europe/Dublin")', "Fri 27 Nov 2026, 09:05"],
  ['time("17:30:00")', "17:30"],
  ['duration("P1DT3H")', "1 day 3 hours"],
  ['duration("-PT90M")', "minus 1 hour 30 minutes"],
  ['duration("P1Y2M")', "1 year 2 months"],
  ['duration("PT0S")', "0 seconds"],
  ["true", "yes"],
  ["null", ""],
  ["12345.50", "12345.5"],
  ['["a", "b"]', "a, b"],
  ['[date("2026-11-27"), false]', "Fri 27 Nov 2026, no"],
  ["for i in 1..150 return i", expect.stringMatching(/^1, 2, .*, 100 and 50 more$/)],
])("%s reads as %s", (formula, want) => expect(readText(value(formula))).toEqual(want));

it("gives sums of money their cents, digits in threes", () => {
  expect(readText(value("1234567.5"), true)).toBe("1\u202f234\u202f567.50");
  expect(readText(value("-1234"), true)).toBe("-1\u202f234.00");
  const names = (f: string) => (f === "Total" ? value("1250.5") : value('date("2026-12-01")'));
  expect(templateText("{Total} by {Until}.", names, (f) => f === "Total")).toBe(
    "1\u202f250.50 by Tue 1 Dec 2026.",
  );
});

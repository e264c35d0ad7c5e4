import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { addWorkingDays, workingDaysBetween, type WorkingCalendar } from "../calendar";
import { evaluateText } from "./evaluateText";

/**
 * The language by section of the standard, as data: `formula => JSON`. `@ {…}` sets the names in scope for the lines
 * below it, `% unary` reads them as unary tests.
 */
const FOLDER = join(__dirname, "conformance");
const hours: [string, string][] = [["09:00", "17:00"]];
const calendar: WorkingCalendar = {
  key: "office",
  name: "Office",
  zone: "Europe/Dublin",
  week: { "1": hours, "2": hours, "3": hours, "4": hours, "5": hours },
  holidays: [],
};
const around = {
  working: {
    add: (d: never, n: number) => addWorkingDays(calendar, d, n),
    between: (a: never, b: never) => workingDaysBetween(calendar, a, b),
  },
};

const cases: {
  file: string;
  section: string;
  text: string;
  want: unknown;
  data: Record<string, unknown>;
  dialect: "unary" | "expression";
}[] = [];
for (const file of readdirSync(FOLDER).sort()) {
  let section = "";
  let data: Record<string, unknown> = {};
  let dialect: "unary" | "expression" = "expression";
  for (const line of readFileSync(join(FOLDER, file), "utf8").split("\n")) {
    if (line.startsWith("# ")) section = line.slice(2);
    else if (line.startsWith("% ")) dialect = line.slice(2) as "unary";
    else if (line.startsWith("@ ")) data = JSON.parse(line.slice(2)) as Record<string, unknown>;
    else if (line.trim() !== "") {
      const at = line.lastIndexOf(" => ");
      cases.push({
        file,
        section,
        text: line.slice(0, at),
        want: JSON.parse(line.slice(at + 4)),
        data,
        dialect,
      });
    }
  }
}

const run = (c: (typeof cases)[number]) =>
  evaluateText(c.text, c.data, {
    now: "2026-03-03T10:00:00Z",
    zone: "Europe/Dublin",
    dialect: c.dialect,
    around,
  }).value;

it("has the cases of every part", () => expect(cases.length).toBeGreaterThan(1000));

describe.each([...new Set(cases.map((c) => `${c.file}: ${c.section}`))])("%s", (section) => {
  // One test a section: a thousand tests of a microsecond each would cost seconds of bookkeeping.
  it("gives what the standard says", () => {
    const wrong = cases
      .filter((c) => `${c.file}: ${c.section}` === section)
      .map((c) => ({ formula: c.text, want: c.want, got: run(c) }))
      .filter(({ want, got }) => JSON.stringify(got) !== JSON.stringify(want));
    expect(wrong).toEqual([]);
  });
});

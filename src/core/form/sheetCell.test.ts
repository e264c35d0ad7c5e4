import fc from "fast-check";
import { FIELDS } from "@/fields/kinds";
import {
  dateInCell,
  momentInCell,
  numberInCell,
  timeInCell,
  type CellContext,
  type Field,
  type SheetCell,
} from ".";

const ctx = (dates: "day" | "month" = "day", decimal: "." | "," = "."): CellContext => ({
  reading: { dates, decimal },
  named: (text) =>
    text === "Maeve Dunlea" ? { id: "maeve.dunlea" } : { why: text === "Two" ? "several" : "none" },
});
const read = (kind: keyof typeof FIELDS, text: string | SheetCell, c = ctx(), more: Partial<Field> = {}) =>
  FIELDS[kind].cell!({ id: "f", name: "F", kind, ...more }, typeof text === "string" ? { text } : text, c);

it.each<[string, "." | ",", string | null]>([
  ["1,250", ".", "1250"],
  ["1.250", ".", "1.250"],
  ["1,250", ",", "1.250"],
  ["1.250", ",", "1250"],
  ["1 250,5", ",", "1250.5"],
  ["-1,234,567.80", ".", "-1234567.80"],
  // Groups that are none, and the other reading's sign, are no number: they are refused, not guessed.
  ["12,34", ".", null],
  ["1.5", ",", null],
  ["1,2,3", ".", null],
  ["5e3", ".", null],
  ["", ".", null],
])("%s with %s is %s", (text, decimal, want) => expect(numberInCell(text, decimal)).toBe(want));

it.each<[string, "day" | "month", string | null]>([
  ["03/04/2026", "day", "2026-04-03"],
  ["03/04/2026", "month", "2026-03-04"],
  ["2026-03-04", "month", "2026-03-04"],
  ["2026/3/4", "day", "2026-03-04"],
  ["3.4.2026", "day", "2026-04-03"],
  ["2026-03-04T00:00:00", "day", "2026-03-04"],
  ["4 March 2026", "month", "2026-03-04"],
  ["Sept 4, 2026", "day", "2026-09-04"],
  ["04/03/26", "day", null],
  ["2026-03-04 13:30", "day", null],
  ["soon", "day", null],
])("%s with the %s first is %s", (text, dates, want) => expect(dateInCell(text, dates)).toBe(want));

it("reads back every day in either order, and never another", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 28 }),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1000, max: 9999 }),
      fc.constantFrom("/", "-", "."),
      (d, m, y, by) => {
        const iso = `${y}-${String(m).padStart(2, "0")}-${String(d).padStart(2, "0")}`;
        expect(dateInCell(`${d}${by}${m}${by}${y}`, "day")).toBe(iso);
        expect(dateInCell(`${m}${by}${d}${by}${y}`, "month")).toBe(iso);
      },
    ),
  );
});

it("each kind takes what it can read and leaves the rest for its own checks", () => {
  expect(read("money", "€ 1,250.50")).toEqual({ kept: "1250.50" });
  expect(read("money", "1250 EUR")).toEqual({ kept: "1250" });
  // Another currency is not taken for ours.
  expect(read("money", "USD 5")).toEqual({ kept: "USD 5" });
  expect(read("number", { text: "1.250", typed: true }, ctx("day", ","))).toEqual({ kept: "1.250" });
  expect(read("yes or no", "Yes")).toEqual({ kept: true });
  expect(read("yes or no", "x")).toEqual({ kept: true });
  expect(read("yes or no", "0")).toEqual({ kept: false });
  expect(read("yes or no", "perhaps")).toEqual({ kept: "perhaps" });
  expect(read("choice", "In Store", ctx(), { options: ["in store", "on show"] })).toEqual({
    kept: "in store",
  });
  expect(read("choice", "a", ctx(), { options: ["A", "a"] })).toEqual({ kept: "a" });
  expect(read("choice", "lost", ctx(), { options: ["in store"] })).toEqual({ kept: "lost" });
  expect(read("person", "Maeve Dunlea")).toEqual({ kept: "maeve.dunlea" });
  expect(read("person", "Two")).toEqual({ why: "several", text: "Two" });
  expect(read("look-up", "QH.1")).toEqual({ why: "none", text: "QH.1" });
  for (const kind of ["text", "number", "money", "date", "yes or no", "choice", "person", "look-up"] as const)
    expect(read(kind, "  ")).toEqual({ kept: null });
  // What our own files put before a formula sign goes again; any other apostrophe stays.
  expect(read("text", "'=cmd|x")).toEqual({ kept: "=cmd|x" });
  expect(read("text", "'t Huis")).toEqual({ kept: "'t Huis" });
});

it.each([
  ["14:30", "14:30"],
  ["9:05", "09:05"],
  ["14.30", "14:30"],
  ["2:30 pm", "14:30"],
  ["12:00 a.m.", "00:00"],
  ["12:00pm", "12:00"],
  ["14:30:00", "14:30"],
  ["1899-12-30 14:30", "14:30"],
  ["14:30:15", null],
  ["13:00 pm", null],
  ["0:30 am", null],
  ["24:00", null],
  ["12:60", null],
  ["1430", null],
  ["", null],
])("reads the time in a cell: %s", (text, time) => {
  expect(timeInCell(text)).toBe(time);
});

it.each([
  ["2026-11-30T14:30", "2026-11-30T14:30"],
  ["2026-11-30 14:30:00", "2026-11-30T14:30"],
  ["2026-11-30T14:30:00.000Z", "2026-11-30T14:30"],
  ["03/04/2026 9:05", "2026-04-03T09:05"],
  ["3 April 2026, 2:30 pm", "2026-04-03T14:30"],
  ["2026-11-30", "2026-11-30T00:00"],
  ["2026-11-30 25:00", null],
  ["14:30", null],
  ["soon 14:30", null],
])("reads the moment in a cell: %s", (text, moment) => {
  expect(momentInCell(text, "day")).toBe(moment);
});

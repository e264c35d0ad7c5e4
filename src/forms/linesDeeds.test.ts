import type { StoredRow } from "@/core/form";
import { cellsPasted, mostRows, nextRowId, rowCopied, rowMoved } from "./linesDeeds";

const rows: StoredRow[] = [
  { "#": "1", a: "one", total: "1" },
  { "#": "7", a: "two", total: "2" },
  { "#": "x3", a: null },
];
const ids = (of: readonly { "#": string }[]) => of.map((r) => r["#"]);

it("gives a number no row has, and copies what can be filled in", () => {
  expect(nextRowId(rows)).toBe(8);
  expect(nextRowId([])).toBe(1);
  const copied = rowCopied(rows, 0, ["a"]);
  expect(ids(copied)).toEqual(["1", "8", "7", "x3"]);
  expect(copied[1]).toEqual({ "#": "8", a: "one" });
});
it("moves a row, and not beyond the ends", () => {
  expect(ids(rowMoved(rows, 0, 1))).toEqual(["7", "1", "x3"]);
  expect(ids(rowMoved(rows, 2, -1))).toEqual(["1", "x3", "7"]);
  expect(rowMoved(rows, 0, -1)).toBe(rows);
  expect(rowMoved(rows, 2, 1)).toBe(rows);
});
it.each([
  [undefined, 2000],
  ["12", 12],
  ["0", 0],
  ["9999", 2000],
  ["many", 2000],
])("of at most %j there may be %d", (max, most) => {
  expect(mostRows(max === undefined ? {} : { max })).toBe(most);
});
it.each([
  ["gloves", null],
  ["gloves\n", null],
  ["gloves\t3", [["gloves", "3"]]],
  [
    "gloves\t3\r\ntissue\t\r\n",
    [
      ["gloves", "3"],
      ["tissue", ""],
    ],
  ],
  ["a\nb", [["a"], ["b"]]],
])("%j pasted is %j", (text, cells) => {
  expect(cellsPasted(text)).toEqual(cells);
});

import type { Field, StoredRow } from "@/core/form";
import { pasteLines } from "./pasteLines";

const column = (id: string, kind: Field["kind"], more: Partial<Field> = {}): Field => ({
  id,
  name: id.toUpperCase(),
  kind,
  ...more,
});
const columns = [
  column("what", "look-up", { register: "prices" }),
  column("qty", "number"),
  column("day", "date"),
  column("sum", "money", { worked: "Qty * 2" }),
  column("who", "person"),
  column("seen", "text"),
  column("note", "text"),
];
const field: Field = { id: "l", name: "Items", kind: "lines", fields: columns };
const person = (id: string, name: string) => ({
  id,
  name,
  email: "",
  jobTitle: "",
  department: "",
  site: "",
});
const facts = {
  people: { una: person("una", "Una Finch"), a: person("a", "Al Same"), b: person("b", "Al Same") },
  registers: {},
  records: {},
};
const titles = ["Gloves", "Gloves, long", "Tissue", "Box", "Box"];
const asked: string[] = [];
const context = {
  facts,
  learn: jest.fn(),
  lookUp: async (_: string, text: string) => {
    asked.push(text);
    return titles.flatMap((title, i) =>
      title.toLowerCase().includes(text.toLowerCase())
        ? [{ id: String(i), title, record: { id: String(i) } }]
        : [],
    );
  },
};
const paste = (rows: StoredRow[], cells: string[][], from: { row: string; column: number }, of = field) =>
  pasteLines(
    of,
    () => rows,
    cells,
    from,
    columns,
    (c) => c.id !== "seen",
    context,
  );

it("fills cells from one on, adds the rows it wants, and leaves alone what cannot be filled in", async () => {
  const before = [{ "#": "4", what: "1", qty: "9", seen: "kept", note: "n" }];
  const r = await paste(
    before,
    [
      ["gloves", "1,250.50", "3/4/2026", "99", "una finch", "x", " first "],
      ["Tissue", "many", "soon", "", "", "", ""],
    ],
    { row: "4", column: 0 },
  );
  expect(r).toEqual({
    rows: [
      { "#": "4", what: "0", qty: "1250.50", day: "2026-04-03", who: "una", seen: "kept", note: "first" },
      // What cannot be read stands as it was, for the form to say so.
      { "#": "5", what: "2", qty: "many", day: "soon", who: null, note: null },
    ],
    said: [],
  });
  expect(context.learn).toHaveBeenCalledTimes(2);
  expect(before).toEqual([{ "#": "4", what: "1", qty: "9", seen: "kept", note: "n" }]);
});
it("says what names nobody, or more than one, and asks for a name once", async () => {
  asked.length = 0;
  const r = await paste([{ "#": "1" }], [["Box"], ["Vase"], ["box"], ["Vase"]], { row: "1", column: 0 });
  expect(r.rows.map((x) => x["what"])).toEqual([null, null, null, null]);
  expect(r.said).toEqual([
    "Nothing, or more than one, is called “Box”, “Vase”, “box” and 1 more; those cells are left empty.",
  ]);
  expect(asked).toEqual(["box", "Vase"]);
  const two = await paste([{ "#": "1" }], [["Al Same"]], { row: "1", column: 4 });
  expect(two.rows).toEqual([{ "#": "1", who: null }]);
});
it("stops where there may be no more lines, and says how many found no place", async () => {
  const cells = Array.from({ length: 10_000 }, (_, i) => [String(i)]);
  const r = await paste([{ "#": "1" }, { "#": "2" }], cells, { row: "2", column: 1 }, { ...field, max: "5" });
  expect(r.rows.map((x) => x["qty"] ?? null)).toEqual([null, "0", "1", "2", "3"]);
  expect(r.said).toEqual(["Items takes 5 lines; 9996 of those that were pasted found no place."]);
  const all = await paste([{ "#": "1" }], cells, { row: "1", column: 1 });
  expect(all.rows).toHaveLength(2000);
});
it("puts nothing over what was typed while names were looked for", async () => {
  let rows: StoredRow[] = [{ "#": "1" }, { "#": "2" }];
  const slow = {
    ...context,
    lookUp: async (r: string, t: string) => {
      rows = [{ "#": "2", note: "typed" }];
      return context.lookUp(r, t);
    },
  };
  const go = (row: string) =>
    pasteLines(
      field,
      () => rows,
      [["Tissue", "3"]],
      { row, column: 0 },
      columns,
      () => true,
      slow,
    );
  expect((await go("2")).rows).toEqual([{ "#": "2", what: "2", qty: "3", note: "typed" }]);
  rows = [{ "#": "1" }, { "#": "2" }];
  expect((await go("1")).rows).toEqual([{ "#": "2", note: "typed" }]);
});

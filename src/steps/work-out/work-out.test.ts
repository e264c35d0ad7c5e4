import { personParty } from "@/core/form";
import { compileRelease, NEW_REQUEST, replay } from "@/core/engine";
import { decideBy, definitionOf, fin, harness, YES_NO } from "@/core/engine/testRequest";
import type { Field, FormData, Registers, StoredRow } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step, type StepOf } from "@/core/route";
import { KINDS } from "@/kinds";

type WorkOut = StepOf<"work out">;

const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "reason", name: "Reason", kind: "text" },
  { id: "sum", name: "Sum", kind: "money", worked: "sum(Lines.Price)" },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "name", name: "Name", kind: "text" },
      { id: "price", name: "Price", kind: "money" },
      { id: "twice", name: "Twice", kind: "money", worked: "Price * 2" },
    ],
  },
];
const ROWS = [
  { "#": "a", name: "Rope", price: "30", twice: null },
  { "#": "b", name: "Sail", price: "70", twice: null },
  { "#": "c", name: "Anchor", price: null, twice: null },
];
const workOut = (more: Partial<WorkOut>): Step =>
  ({ id: "w", name: "Sums", kind: "work out", set: [], ...more }) as Step;
const process = (route: Step[], fields = FIELDS): ProcessDefinition =>
  definitionOf([...route, fin("e", "done")], { fields });
function done(more: Partial<WorkOut>, rows: StoredRow[] = ROWS, after: Step[] = []) {
  const h = harness(process([workOut(more), ...after]));
  const data: FormData = { total: "100", reason: "x", lines: rows };
  h.send({ type: "start", actor: "una", requester: personParty("una"), number: "T-1", data });
  expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  return h;
}
const linesOf = (h: ReturnType<typeof done>) => h.state.data["lines"] as StoredRow[];
const names = (h: ReturnType<typeof done>) => linesOf(h).map((r) => r["name"]);

describe("rows of line items", () => {
  it("are set in a column, all of them or those that are meant, each by its own values and those of the route", () => {
    const all = done({
      rows: [{ id: "r", lines: "lines", do: "set", column: "price", value: "Price + Total" }],
    });
    expect(linesOf(all).map((r) => r["price"])).toEqual(["130", "170", null]);
    const some = done({
      rows: [{ id: "r", lines: "lines", do: "set", column: "price", value: "5", where: "Price = null" }],
    });
    expect(linesOf(some).map((r) => r["price"])).toEqual(["30", "70", "5"]);
  });

  it("are added, one or for each of a list, with ids of their own", () => {
    const one = done({
      rows: [
        { id: "r", lines: "lines", do: "add", values: [{ column: "name", value: "Reason" }] },
        { id: "s", lines: "lines", do: "add", values: [{ column: "name", value: '"last"' }] },
      ],
    });
    expect(names(one)).toEqual(["Rope", "Sail", "Anchor", "x", "last"]);
    expect(new Set(linesOf(one).map((r) => r["#"])).size).toBe(5);
    const many = done({
      rows: [
        {
          id: "r",
          lines: "lines",
          do: "add",
          from: "Lines[Price > 20]",
          as: "Old",
          values: [
            { column: "name", value: 'Old.Name + " again"' },
            { column: "price", value: "Old.Twice" },
          ],
        },
      ],
    });
    expect(names(many).slice(3)).toEqual(["Rope again", "Sail again"]);
    expect(linesOf(many).map((r) => r["price"])).toEqual(["30", "70", null, "60", "140"]);
    const none = done({
      rows: [
        { id: "r", lines: "lines", do: "add", from: "null", values: [{ column: "name", value: '"x"' }] },
      ],
    });
    expect(names(none)).toHaveLength(3);
  });

  it("are removed where it holds, and sorted, those alike in their order and those with nothing last", () => {
    const removed = done({ rows: [{ id: "r", lines: "lines", do: "remove", where: "Price >= 70" }] });
    expect(names(removed)).toEqual(["Rope", "Anchor"]);
    // What is empty is no reason to take a row away.
    expect(names(done({ rows: [{ id: "r", lines: "lines", do: "remove", where: "Price > 1" }] }))).toEqual([
      "Anchor",
    ]);
    const rows = [...ROWS, { "#": "d", name: "Buoy", price: "30", twice: null }];
    const sort = (by: string, descending?: true) =>
      names(
        done(
          { rows: [{ id: "r", lines: "lines", do: "sort", by, ...(descending ? { descending } : {}) }] },
          rows,
        ),
      );
    expect(sort("Price")).toEqual(["Rope", "Buoy", "Sail", "Anchor"]);
    expect(sort("Price", true)).toEqual(["Sail", "Rope", "Buoy", "Anchor"]);
    expect(sort("Name")).toEqual(["Anchor", "Buoy", "Rope", "Sail"]);
  });

  it("are changed one after the other, fields first, each reading what was left", () => {
    const h = done({
      set: [{ field: "total", value: "Total + 100" }],
      rows: [
        { id: "a", lines: "lines", do: "remove", where: "Price = null" },
        { id: "b", lines: "lines", do: "set", column: "price", value: "Price + count(Lines)" },
        { id: "c", lines: "lines", do: "add", values: [{ column: "price", value: "Sum + Total" }] },
        { id: "d", lines: "lines", do: "sort", by: "Twice", descending: true },
      ],
    });
    // 100 + 100 = 200; 30 + 2 and 70 + 2; a row of 104 + 200.
    expect(h.state.data["total"]).toBe("200");
    expect(linesOf(h).map((r) => r["price"])).toEqual(["304", "72", "32"]);
  });

  it("stop the request where a value cannot be worked out, kept, or ordered: nothing is lost", () => {
    const stuck = (rows: WorkOut["rows"]) => {
      const h = done({ rows: rows! });
      expect(linesOf(h)).toHaveLength(3);
      return h.state.stuck[0]?.reason.code;
    };
    const of = { id: "r", lines: "lines" };
    expect(stuck([{ ...of, do: "remove", where: "1 / (Price - 30) > 0" }])).toBe("unclear");
    expect(stuck([{ ...of, do: "set", column: "price", value: "1 / (Price - 70)" }])).toBe("unclear");
    expect(stuck([{ ...of, do: "sort", by: 'if Price = 30 then "x" else Price' }])).toBe("no-order");
    expect(
      stuck([
        { ...of, do: "add", from: "for i in 1..6000 return i", values: [{ column: "name", value: '"x"' }] },
      ]),
    ).toBe("too-many-rows");
  });

  it("that are not shown just now are not lost by it", () => {
    const hidden = FIELDS.map((f) => (f.id === "lines" ? { ...f, shown: "Total > 500" } : f));
    const step = workOut({
      set: [{ field: "total", value: "1" }],
      rows: [
        { id: "r", lines: "lines", do: "remove", where: "Price > 1" },
        { id: "s", lines: "lines", do: "sort", by: "Price" },
      ],
    });
    const h = harness(process([step], hidden));
    h.send({
      type: "start",
      actor: "una",
      requester: personParty("una"),
      number: "T-1",
      data: { total: "900", lines: ROWS },
    });
    expect((h.state.data["lines"] as StoredRow[]).map((r) => r["name"])).toEqual(["Rope", "Sail", "Anchor"]);
  });

  it("take their copies when what those come from is set, and leave the others", () => {
    const prices: Registers = {
      prices: {
        format: "cobble-step/register@1",
        key: "prices",
        name: "Prices",
        one: "price",
        purpose: "",
        title: ["item"],
        columns: [
          { id: "item", name: "Item", kind: "text" },
          { id: "price", name: "Price", kind: "money" },
        ],
      },
    };
    const fields: Field[] = [
      { id: "ref", name: "Ref", kind: "look-up", register: "prices" },
      {
        id: "lines",
        name: "Lines",
        kind: "lines",
        fields: [
          { id: "what", name: "What", kind: "look-up", register: "prices" },
          { id: "cost", name: "Cost", kind: "money", worked: "What.Price", copied: true },
        ],
      },
    ];
    let price = "5";
    const known = () => ({
      registers: prices,
      records: { prices: { "1": { id: "1", item: "Rope", price } } },
    });
    const ask = decideBy("d", { by: "person", person: "carmel" }, YES_NO("d"));
    const add = workOut({
      rows: [{ id: "r", lines: "lines", do: "add", values: [{ column: "what", value: "Ref" }] }],
    });
    const h = harness(process([add, ask, { ...add, id: "w2" } as Step], fields), {}, prices, known as never);
    h.send({ type: "start", actor: "una", requester: personParty("una"), number: "T-1", data: { ref: "1" } });
    expect(h.state.stuck).toEqual([]);
    expect((h.state.data["lines"] as StoredRow[]).map((r) => r["cost"])).toEqual(["5"]);
    price = "9";
    h.answer("carmel", "approve");
    expect((h.state.data["lines"] as StoredRow[]).map((r) => r["cost"])).toEqual(["5", "9"]);
  });
});

describe("rounds over rows", () => {
  const body = (...steps: Step[]) =>
    ({
      ...KINDS.steps["for each"].blank("f"),
      name: "Each",
      over: { lines: "lines" },
      item: "Line",
      bodies: [{ id: "b", steps }],
    }) as Step;
  const look = decideBy("look", { by: "person", person: "carmel" }, YES_NO("look"));
  const remove = workOut({ rows: [{ id: "r", lines: "lines", do: "remove", where: "Price = Line.Price" }] });

  it("end with their rows: also the one that takes its own away", () => {
    const h = harness(process([body(remove, look)]));
    h.send({
      type: "start",
      actor: "una",
      requester: personParty("una"),
      number: "T-1",
      data: { lines: ROWS.slice(0, 2) },
    });
    expect(h.state).toMatchObject({ status: "finished", data: { lines: [] } });
    expect(h.state.tokens).toEqual({});
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("that wait for people are called off when a branch beside takes their rows away", () => {
    const beside = {
      ...KINDS.steps.together.blank("t"),
      branches: [
        { id: "one", name: "One", steps: [body(look)] },
        {
          id: "two",
          name: "Two",
          steps: [
            decideBy("go", { by: "person", person: "declan" }, YES_NO("go")),
            workOut({ rows: [{ id: "r", lines: "lines", do: "remove", where: "Price > 50" }] }),
          ],
        },
      ],
    } as Step;
    const h = harness(process([beside]));
    h.send({
      type: "start",
      actor: "una",
      requester: personParty("una"),
      number: "T-1",
      data: { lines: ROWS.slice(0, 2) },
    });
    expect(h.asked()).toEqual(["carmel", "carmel", "declan"]);
    h.answer("declan", "approve");
    expect(h.asked()).toEqual(["carmel"]);
    h.answer("carmel", "approve");
    expect(h.state.status).toBe("finished");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });
});

describe("values of its own", () => {
  const own = [
    { name: "Deposit", value: "Total / 4" },
    { name: "Names", value: "Lines.Name" },
  ];
  const read: Step = {
    id: "x",
    name: "Read",
    kind: "work out",
    set: [{ field: "reason", value: 'string(Sums.Deposit) + " " + string join(Sums.Names, ",")' }],
  };

  it("are read by the name of the step, of their own types, and stay as they were", () => {
    const h = done({ own, rows: [{ id: "r", lines: "lines", do: "remove", where: "Price = 70" }] }, ROWS, [
      { id: "y", name: "Later", kind: "work out", set: [{ field: "total", value: "8" }] } as Step,
      read,
    ]);
    expect(h.state.data["reason"]).toBe("25 Rope,Anchor");
  });

  it("that there are none of leave the name of the step to others", () => {
    const two = process([workOut({}), workOut({ set: [{ field: "total", value: "1" }] }), read]);
    two.route[1]!.id = "w2";
    const codes = problemsOf(two, { kinds: KINDS, registers: {} }).map((p) => p.code);
    expect(codes).not.toContain("name-twice");
    expect(codes).toContain("unknown-name");
    expect(problemsOf(process([workOut({ own }), read]), { kinds: KINDS, registers: {} })).toEqual([]);
  });

  it("are renamed with the step", () => {
    const around = { kinds: KINDS, registers: {} };
    const r = applyEdit(
      process([workOut({ own }), read]),
      { op: "step.set", id: "w", patch: { name: "Figures" } },
      around,
    );
    expect(r.ok && JSON.stringify(r.definition)).toContain("Figures.Deposit");
  });
});

describe("a draft that works out", () => {
  const codes = (more: Partial<WorkOut>) =>
    problemsOf(process([workOut(more)]), { kinds: KINDS, registers: {} }).map((p) => p.code);
  const of = { id: "r", lines: "lines" };

  it("says what is missing or wrong", () => {
    expect(codes({})).toEqual(["sets-nothing"]);
    expect(codes({ rows: [{ ...of, lines: "gone", do: "remove", where: "true" }] })).toContain("no-lines");
    expect(codes({ rows: [{ ...of, do: "set", column: "gone", value: "1" }] })).toContain("no-column");
    expect(codes({ rows: [{ ...of, do: "set", column: "twice", value: "1" }] })).toEqual(["sets-worked"]);
    expect(codes({ rows: [{ ...of, do: "set", column: "price", value: '"x"' }] })).toEqual(["wrong-type"]);
    expect(codes({ rows: [{ ...of, do: "set", column: "price", value: "" }] })).toEqual(["no-formula"]);
    expect(codes({ rows: [{ ...of, do: "add", values: [] }] })).toEqual(["no-values"]);
    expect(
      codes({
        rows: [{ ...of, do: "add", from: "Lines", values: [{ column: "price", value: "Item.Name" }] }],
      }),
    ).toEqual(["wrong-type"]);
    expect(codes({ rows: [{ ...of, do: "sort", by: "" }] })).toEqual(["no-formula"]);
    expect(codes({ rows: [{ ...of, do: "remove", where: "Nothing" }] })).toEqual(["unknown-name"]);
    expect(codes({ own: [{ name: "a+b", value: "1" }] })).toContain("bad-name");
    expect(
      codes({
        own: [
          { name: "A", value: "1" },
          { name: "A", value: "2" },
        ],
      }),
    ).toContain("own-twice");
  });

  it("renames columns in what it does with rows", () => {
    const rows = [{ ...of, do: "set" as const, column: "price", value: "Price + 1", where: "Price > 1" }];
    const around = { kinds: KINDS, registers: {} };
    const r = applyEdit(
      process([workOut({ rows })]),
      { op: "field.rename", id: "price", name: "Cost" },
      around,
    );
    expect(r.ok && r.definition.route[0]).toMatchObject({ rows: [{ value: "Cost + 1", where: "Cost > 1" }] });
    expect(compileRelease(process([workOut({ rows })]), {}, KINDS)).toBeDefined();
  });
});

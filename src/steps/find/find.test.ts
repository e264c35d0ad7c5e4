import { definitionOf, decideBy, fin, harness, YES_NO } from "@/core/engine/testRequest";
import { applyEdit, type Edit, type Step } from "@/core/route";
import { problemsOf } from "@/core/problems";
import type { RegisterShape, StoredRecord } from "@/core/form";
import { KINDS } from "@/kinds";

const OBJECTS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "objects",
  name: "Objects",
  one: "object",
  purpose: "",
  columns: [
    { id: "title", name: "Title", kind: "text" },
    { id: "total", name: "Total", kind: "money" },
  ],
  title: ["title"],
};
const RECORDS: Record<string, StoredRecord> = {
  "1": { id: "1", title: "Lantern", total: "40" },
  "2": { id: "2", title: "Rope", total: "2" },
};
const find = (more: object = {}): Step =>
  ({ ...KINDS.steps.find.blank("f"), name: "Old things", register: "objects", ...more }) as Step;
const set = (field: string, value: string, id = `w-${field}`): Step => ({
  id,
  name: "Work out",
  kind: "work out",
  set: [{ field, value }],
});
const drive = (route: Step[], records = () => RECORDS) =>
  harness(definitionOf(route), {}, { objects: OBJECTS }, () => ({
    registers: { objects: OBJECTS },
    records: { objects: records() },
  }));
/** Answers the search as the server would. */
function found(h: ReturnType<typeof drive>, ids: string[]) {
  const pending = Object.values(h.state.pending)[0]!;
  const effect = { ...pending, kind: "find" as const };
  return h.send({ type: "effect done", effect, result: { ids, titles: [], more: false } });
}

describe("a Find", () => {
  it("asks for what its sheet says, and goes on with what was found", () => {
    const sort = [{ column: "title", descending: true as const }];
    const h = drive([
      find({ where: "Total > 3", sort, most: 7 }),
      set("reason", "Old things[2].Title"),
      fin("e", "x"),
    ]);
    const d = h.start();
    expect(d.ok && d.effects).toMatchObject([
      { kind: "find", register: "objects", where: "Total > 3", sort, backwards: false, most: 7 },
    ]);
    found(h, ["2", "1"]);
    expect(h.state).toMatchObject({
      status: "finished",
      data: { reason: "Lantern" },
      kept: { f: { register: "objects", ids: ["2", "1"], many: true } },
    });
  });

  it("taking the first or the last gives one record, or nothing", () => {
    for (const take of ["first", "last"] as const) {
      const route = [
        find({ take }),
        set("reason", 'if Old things = null then "none" else Old things.Title'),
        fin("e", "x"),
      ];
      const h = drive(route);
      const d = h.start();
      expect(d.ok && d.effects).toMatchObject([{ most: 1, backwards: take === "last" }]);
      found(h, ["1"]);
      expect(h.state.data["reason"]).toBe("Lantern");
      const empty = drive(route);
      empty.start();
      found(empty, []);
      expect(empty.state.data["reason"]).toBe("none");
    }
  });

  it("stops where nothing is found and the owner says so, and looks again when retried", () => {
    const h = drive([find({ nothing: "stop" }), fin("e", "x")]);
    h.start();
    found(h, []);
    expect(h.state).toMatchObject({ status: "stuck", stuck: [{ reason: { code: "nothing-found" } }] });
    const d = h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(d.ok && d.effects).toMatchObject([{ kind: "find" }]);
    found(h, ["1"]);
    expect(h.state.status).toBe("finished");
  });

  it("takes its way where nothing is found, and goes on behind it after that", () => {
    const ways = [{ id: "none", steps: [set("reason", '"nothing"')] }];
    const h = drive([find({ nothing: "stop", ways }), set("total", "count(Old things)"), fin("e", "x")]);
    h.start();
    found(h, []);
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "nothing", total: "0" } });
    const other = drive([find({ ways }), set("total", "count(Old things)"), fin("e", "x")]);
    other.start();
    found(other, ["2"]);
    expect(other.state).toMatchObject({ status: "finished", data: { total: "1" } });
    expect(other.state.data["reason"]).toBeNull();
    // An empty way leads on, and one that ends does.
    const empty = drive([find({ ways: [{ id: "none", steps: [] }] }), fin("e", "x")]);
    empty.start();
    found(empty, []);
    expect(empty.state.result?.name).toBe("x");
    const ends = drive([find({ ways: [{ id: "none", steps: [fin("n", "none")] }] }), fin("e", "x")]);
    ends.start();
    found(ends, []);
    expect(ends.state.result?.name).toBe("none");
  });

  it("forgets what it found before when it is come to again", () => {
    const again: Step = {
      id: "d",
      name: "Again",
      kind: "decide",
      who: { rule: { by: "person", person: "eithne" }, how: "one" },
      answers: [
        { id: "yes", label: "yes", tone: "agree", steps: [{ id: "j", name: "Jump", kind: "jump", to: "f" }] },
        { id: "no", label: "no", tone: "plain", steps: [] },
      ],
    };
    const h = drive([find(), again, set("total", "count(Old things)"), fin("e", "x")]);
    h.start();
    found(h, ["1", "2"]);
    h.answer("eithne", "yes");
    found(h, []);
    h.answer("eithne", "no");
    expect(h.state.data["total"]).toBe("0");
  });

  it("says of a record that is gone that it cannot be worked out, and still counts it", () => {
    let records: Record<string, StoredRecord> = RECORDS;
    const route = (value: string, field = "reason") => [
      find(),
      decideBy("d", { by: "person", person: "eithne" }, YES_NO("d")),
      set(field, value),
      fin("e", "x"),
    ];
    const run = (r: Step[]) => {
      records = RECORDS;
      const h = drive(r, () => records);
      h.start();
      found(h, ["1", "2"]);
      records = { "2": RECORDS["2"]! };
      h.answer("eithne", "approve");
      return h.state;
    };
    expect(run(route("Old things[1].Title"))).toMatchObject({
      status: "stuck",
      stuck: [{ reason: { code: "unclear" } }],
    });
    expect(run(route("count(Old things)", "total")).data["total"]).toBe("2");
  });

  it("is followed by a sample without a search, also where it would stop", () => {
    const h = drive([find({ nothing: "stop" }), fin("e", "x")]);
    h.start();
    const step = h.state.pending[Object.keys(h.state.pending)[0]!]!;
    const result = KINDS.steps.find.rehearse!(find());
    h.send({ type: "effect done", effect: { ...step, kind: "find" }, result });
    expect(h.state.status).toBe("finished");
  });

  it("is renamed in every formula that reads it; its register's columns are no names of the form", () => {
    const d = definitionOf([
      find({ where: "Total > 3 and Reason != null" }),
      set("reason", "Old things[Total > 3][1].Title"),
      fin("e", "x"),
    ]);
    const around = { registers: { objects: OBJECTS }, kinds: KINDS };
    const edited = (from: typeof d, e: Edit) => {
      const r = applyEdit(from, e, around);
      if (!r.ok) throw new Error(r.refusal.code);
      return r.definition;
    };
    const named = edited(d, { op: "step.set", id: "f", patch: { name: "Very old things" } });
    expect(JSON.stringify(named.route)).toContain("Very old things[Total > 3][1].Title");
    // The record's Total, and not the form's.
    const field = edited(named, { op: "field.rename", id: "total", name: "Sum" });
    expect(JSON.stringify(field.route)).toContain('"where":"Total > 3 and Reason != null"');
    const other = edited(named, { op: "field.rename", id: "reason", name: "Why" });
    expect(JSON.stringify(other.route)).toContain("Total > 3 and Why != null");
  });
});

describe("problems of a Find", () => {
  const codes = (route: Step[], more: object = {}) =>
    problemsOf(definitionOf(route, more), {
      registers: { objects: OBJECTS },
      kinds: KINDS,
      office: { people: [], groups: {}, duties: {}, calendars: [], mailboxes: [] },
    } as never)
      .filter((p) => p.where.id === "f" || p.where.id.startsWith("w"))
      .map((p) => p.code);
  it("name what is missing or means nothing", () => {
    expect(codes([find({ where: "Total > 1" }), fin("e", "x")])).toEqual([]);
    expect(codes([find(), fin("e", "x")])).toEqual(["finds-all"]);
    // Whatever its way for nothing found does, something may be found.
    const ways = [{ id: "n", steps: [fin("none", "none")] }];
    const route = [find({ where: "Total > 1", ways }), set("total", "count(Old things)"), fin("e", "x")];
    expect(codes(route)).toEqual([]);
    expect(codes([find({ register: "shelves", where: "true" }), fin("e", "x")])).toContain("no-register");
    expect(codes([find({ where: "Total > 1", sort: [{ column: "age" }] }), fin("e", "x")])).toEqual([
      "no-column",
    ]);
    expect(codes([find({ where: "Total > 1", name: "Found, old" }), fin("e", "x")])).toEqual(["bad-name"]);
    expect(codes([find({ where: "Totl > 1" }), fin("e", "x")])).toHaveLength(1);
    expect(codes([find({ where: "Title" }), fin("e", "x")])).toHaveLength(1);
    expect(codes([find({ where: "Total > 1", name: "Reason" }), fin("e", "x")])).toContain("name-twice");
    expect(
      codes([set("reason", "Old things[1].Title"), find({ where: "Total > 1" }), fin("e", "x")]),
    ).toEqual(["read-before-set"]);
  });
});

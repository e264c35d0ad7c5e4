import { compileRelease, forgetEvents, NEW_REQUEST, replay } from "@/core/engine";
import { definitionOf, fin, harness } from "@/core/engine/testRequest";
import type { Field } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import type { LabelsOf } from "./shape";

const LABELS: LabelsOf = {
  of: "Things",
  heading: "{number}: {Name}",
  text: "{Reason}\n\n{Shelf}, {item.Name}",
  across: 2,
  down: 3,
  margin: 5,
};
const FIELDS: Field[] = [
  {
    id: "things",
    name: "Things",
    kind: "lines",
    fields: [
      { id: "name", name: "Name", kind: "text" },
      { id: "shelf", name: "Shelf", kind: "text" },
    ],
  },
  { id: "papers", name: "Papers", kind: "file" },
];
const labelsOf = (labels: Partial<LabelsOf> = {}, more: object = {}): ProcessDefinition => {
  const step = {
    id: "s",
    name: "Sheet",
    kind: "draw up",
    document: "",
    called: "Labels {Request.number}",
    as: "both",
    into: "papers",
    labels: { ...LABELS, ...labels },
    ...more,
  } as Step;
  const d = definitionOf([step, fin("e", "done")]);
  return { ...d, fields: [...d.fields, ...FIELDS] };
};
const things = (...rows: [string, string][]) =>
  rows.map(([name, shelf], i) => ({ "#": `r${i}`, name, shelf }));
const START = { total: "21", reason: "Ropes of Niamh", things: things(["Oar", "A1"], ["Net", "B2"]) };
const wrong = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {} }).flatMap((p) => (p.where.id === "s" ? [p.code] : []));

describe("Labels", () => {
  it("has one for each thing, in the order of the list; a line that is empty is none", () => {
    const d = labelsOf();
    const h = harness(d);
    h.start(START);
    expect(h.events.find((e) => e.type === "effect asked")).toMatchObject({
      effect: {
        kind: "draw up",
        called: expect.stringMatching(/^Labels TEST-/) as string,
        labels: {
          across: 2,
          down: 3,
          margin: 5,
          labels: [
            { heading: "1: Oar", lines: ["Ropes of Niamh", "A1, Oar"] },
            { heading: "2: Net", lines: ["Ropes of Niamh", "B2, Net"] },
          ],
        },
      },
    });
    const [pending] = Object.values(h.state.pending);
    const file = { id: "f1", name: "Labels.pdf", size: 10, sha256: "a".repeat(64) };
    h.send({
      type: "effect done",
      effect: { id: pending!.id, step: "s", kind: "draw up" },
      result: { files: [file], pages: 1 },
      files: ["f1"],
    });
    expect(h.state.status).toBe("finished");
    expect(h.state.data["papers"]).toBe("f1");
    const left = forgetEvents(h.events, compileRelease(d, {}, KINDS), {
      fields: new Set(["reason", "things", "papers"]),
      inCalls: true,
      asker: true,
      notesOf: null,
    });
    expect(JSON.stringify(left)).not.toMatch(/Niamh|Oar/);
    expect(replay(left, NEW_REQUEST).status).toBe("finished");
  });

  it("of nothing are no file, and the request goes on", () => {
    const h = harness(labelsOf());
    h.start({ ...START, things: [] });
    expect(h.state.status).toBe("finished");
    expect(h.events.some((e) => e.type === "effect asked")).toBe(false);
    expect(h.state.data["papers"]).toBeNull();
  });

  it("have no gap where something cannot be worked out, and stop at more than fits", () => {
    const reasonOf = (d: ProcessDefinition, start: object = START) => {
      const h = harness(d);
      h.start({ ...START, ...start });
      expect(h.events.some((e) => e.type === "effect asked")).toBe(false);
      return JSON.stringify(h.state);
    };
    expect(reasonOf(labelsOf({ heading: "{1 / (Total - Total)}" }))).toContain("unclear");
    expect(reasonOf(labelsOf({ text: "{Name}\n{1 / (Total - Total)}" }))).toContain("unclear");
    expect(reasonOf(labelsOf({ of: "1 / (Total - Total)" }))).toContain("unclear");
    expect(reasonOf(labelsOf({ of: "for i in 1..5001 return i", text: "" }))).toContain("5,001 labels");
    const long = { reason: "x".repeat(150) };
    expect(reasonOf(labelsOf({ of: "for i in 1..5000 return i", text: "{Reason}" }), long)).toContain(
      "600,000 characters",
    );
    expect(reasonOf(labelsOf({ across: 0 }))).toContain("Labels across");
  });

  it("tell what is wrong with them", () => {
    expect(wrong(labelsOf())).toEqual([]);
    expect(wrong(labelsOf({ of: "", heading: "x", text: "" }))).toEqual(["no-list"]);
    expect(wrong(labelsOf({ of: "Reason", heading: "x", text: "" }))).toEqual(["no-list"]);
    expect(wrong(labelsOf({ heading: " ", text: "" }))).toEqual(["empty-labels"]);
    expect(wrong(labelsOf({ heading: "{Nme}" }))).toEqual(["unknown-name"]);
    expect(wrong(labelsOf({ down: 21 }))).toEqual(["bad-grid"]);
    expect(wrong(labelsOf({ margin: 2.5 }))).toEqual(["bad-grid"]);
  });

  it("warn where they tell what is hidden from whoever can open them, by a column's own name, too", () => {
    const hides = (fields: Record<string, "hide">): ProcessDefinition => {
      const d = labelsOf();
      return { ...d, access: { e: fields } };
    };
    expect(wrong(hides({ reason: "hide" }))).toEqual(["hidden-in-text"]);
    expect(wrong(hides({ shelf: "hide" }))).toEqual(["hidden-in-text"]);
    expect(wrong(hides({ shelf: "hide", papers: "hide" }))).toEqual([]);
    expect(wrong(hides({ total: "hide" }))).toEqual([]);
  });

  it("follow columns and lists that are called otherwise", () => {
    const renamed = (id: string, name: string) => {
      const done = applyEdit(labelsOf(), { op: "field.rename", id, name }, { kinds: KINDS, registers: {} });
      if (!done.ok) throw new Error(JSON.stringify(done));
      return (done.definition.route[0] as { labels: LabelsOf }).labels;
    };
    expect(renamed("shelf", "Place").text).toBe("{Reason}\n\n{Place}, {item.Name}");
    expect(renamed("name", "Title")).toMatchObject({
      heading: "{number}: {Title}",
      text: "{Reason}\n\n{Shelf}, {item.Title}",
    });
    expect(renamed("things", "Objects").of).toBe("Objects");
    expect(renamed("reason", "Why").text).toBe("{Why}\n\n{Shelf}, {item.Name}");
  });
});

import type { DocumentTemplate, TagSaid } from "@/core/document";
import { compileRelease, forgetEvents, NEW_REQUEST, replay } from "@/core/engine";
import { definitionOf, fin, harness } from "@/core/engine/testRequest";
import type { Field } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step } from "@/core/route";
import { KINDS } from "@/kinds";

const draw = (more: object = {}): Step =>
  ({
    id: "s",
    name: "Paper",
    kind: "draw up",
    document: "t",
    called: "Paper {Request.number}",
    as: "both",
    into: "papers",
    ...more,
  }) as Step;
const template = (...said: TagSaid[]): DocumentTemplate => ({
  id: "t",
  name: "Slip",
  file: { sha256: "0".repeat(64), name: "Slip.docx", size: 1 },
  tags: said.map((x) => ({ ...x, piece: 0, in: "text", near: "x" })),
});
const PAPERS: Field = { id: "papers", name: "Papers", kind: "files" };
function processOf(step: Step, ...said: TagSaid[]): ProcessDefinition {
  const d = definitionOf([step, fin("e", "done")]);
  return { ...d, fields: [...d.fields, PAPERS], documents: [template(...said)] };
}
const START = { total: "21", reason: "Ropes of Niamh" };
const FILES = [
  { id: "f1", name: "Paper.pdf", size: 10, sha256: "a".repeat(64) },
  { id: "f2", name: "Paper.docx", size: 10, sha256: "b".repeat(64) },
];
const wrong = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {} }).flatMap((p) =>
    p.where.id === "s" || p.where.kind === "document" ? [p.code] : [],
  );

describe("Draw up", () => {
  it("asks for what stands in each place, and keeps what came of it", () => {
    const d = processOf(
      draw(),
      { tag: "value", of: "Reason" },
      { tag: "each", of: "[Total, 2]" },
      { tag: "value", of: "number" },
      { tag: "value", of: "item" },
      { tag: "end" },
      { tag: "each", of: '[{a: "x", number: "own"}]' },
      { tag: "value", of: "a" },
      { tag: "value", of: "number" },
      { tag: "value", of: "Reason" },
      { tag: "end" },
      { tag: "if", of: "Total > 100" },
      { tag: "value", of: "Reason" },
      { tag: "otherwise" },
      { tag: "value", of: '"small"' },
      { tag: "end" },
    );
    const h = harness(d);
    h.start(START);
    const [pending] = Object.values(h.state.pending);
    expect(h.events.find((e) => e.type === "effect asked")).toMatchObject({
      effect: {
        kind: "draw up",
        as: "both",
        filled: [
          "Ropes of Niamh",
          {
            times: [
              ["1", "21"],
              ["2", "2"],
            ],
          },
          // What a thing has comes before what is called so around it.
          { times: [["x", "own", "Ropes of Niamh"]] },
          { holds: false, parts: ["small"] },
        ],
      },
    });
    h.send({
      type: "effect done",
      effect: { id: pending!.id, step: "s", kind: "draw up" },
      result: { files: FILES, pages: 3 },
      files: ["f1", "f2"],
    });
    expect(h.state.status).toBe("finished");
    expect(h.state.data["papers"]).toBe("f1\nf2");
    const left = forgetEvents(h.events, compileRelease(d, {}, KINDS), {
      fields: new Set(["reason", "papers"]),
      inCalls: true,
      asker: true,
      notesOf: null,
    });
    expect(JSON.stringify(left)).not.toContain("Niamh");
    expect(replay(left, NEW_REQUEST).status).toBe("finished");
  });

  it("stops where what stands in it cannot be worked out, and leaves a gap where it is only empty", () => {
    const stuck = harness(processOf(draw(), { tag: "value", of: "1 / (Total - Total)" }));
    stuck.start(START);
    expect(Object.values(stuck.state.pending)).toEqual([]);
    expect(JSON.stringify(stuck.state)).toContain('"unclear"');
    const gap = harness(processOf(draw(), { tag: "value", of: "Reason" }));
    gap.start({ total: "21" });
    expect(gap.events.find((e) => e.type === "effect asked")).toMatchObject({ effect: { filled: [""] } });
  });

  it("tells what is wrong with it", () => {
    const said = { tag: "value", of: "Reason" } as const;
    expect(wrong(processOf(draw(), said))).toEqual([]);
    expect(wrong(processOf(draw({ document: "" }), said))).toEqual(["no-document", "document-unused"]);
    expect(wrong(processOf(draw({ document: "gone" }), said))).toEqual(["no-document", "document-unused"]);
    expect(wrong(processOf(draw({ called: " " }), said))).toEqual(["no-file-name"]);
    expect(wrong(processOf(draw({ into: "reason" }), said))).toEqual(["no-field"]);
    expect(wrong(processOf(draw(), { tag: "value", of: "Reson" }))).toEqual(["unknown-name"]);
    expect(wrong(processOf(draw(), said, { tag: "end" }))).toEqual(["end-too-many"]);
    const one = processOf(draw({ into: "papers" }), said);
    const single = {
      ...one,
      fields: one.fields.map((f) => (f.id === "papers" ? { ...f, kind: "file" as const } : f)),
    };
    const problems = problemsOf(single, { kinds: KINDS, registers: {} });
    const mend = problems.find((p) => p.code === "one-file")!.mend!;
    const mended = applyEdit(single, mend.edit, { kinds: KINDS, registers: {} });
    expect(mended.ok && wrong(mended.definition)).toEqual([]);
  });

  it("warns where a document tells what is hidden from somebody who can open it", () => {
    const open = processOf(draw(), { tag: "value", of: "Reason" });
    const hides = (papers: "see" | "hide") => ({
      ...open,
      access: { ...open.access, e: { reason: "hide" as const, papers } },
    });
    expect(wrong(hides("see"))).toEqual(["hidden-in-text"]);
    expect(wrong(hides("hide"))).toEqual([]);
  });
});

import type { DocumentTemplate, TagSaid } from "@/core/document";
import { compileRelease, forgetEvents, NEW_REQUEST, replay, samplePath } from "@/core/engine";
import { officeFacts } from "@/core/engine/testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "@/core/engine/testRequest";
import type { Field, FileFacts } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step, type StepOf } from "@/core/route";
import { KINDS } from "@/kinds";

const file = (id: string, name: string): FileFacts => ({ id, name, size: 9, type: "image/png", at: 0 });
const files = Object.fromEntries(
  ["s1", "s2", "s3"]
    .map((id) => [id, file(id, "Signature.png")] as const)
    .concat([
      ["doc1", file("doc1", "Paper.pdf")],
      ["doc2", file("doc2", "Paper, version 2.pdf")],
      ["signed1", file("signed1", "Paper signed.pdf")],
    ]),
);
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "here", name: "Sign here", kind: "signature" },
  { id: "there", name: "Sign there", kind: "signature" },
  { id: "papers", name: "Papers", kind: "files" },
];
const template = (...of: string[]): DocumentTemplate => ({
  id: "t",
  name: "Slip",
  file: { sha256: "0".repeat(64), name: "Slip.docx", size: 1 },
  tags: of.map((x) => ({ tag: "picture", of: x, piece: 0, in: "text", near: "x" })),
});
const draw = (more: object = {}): Step =>
  ({ id: "w", name: "Paper", kind: "draw up", document: "t", called: "Paper", as: "pdf", ...more }) as Step;
const sign = (id: string, person: string, field: string, more: object = {}): Step => ({
  id,
  name: `Signing ${id}`,
  kind: "complete",
  who: { rule: { by: "person", person }, how: "one" },
  button: "Signed",
  signs: { document: "w", field, into: "papers" },
  ...more,
});
const process = (...route: Step[]): ProcessDefinition =>
  definitionOf([...route, fin("e", "done")], {
    fields: FIELDS,
    documents: [template("Sign here", "Sign there")],
    access: {
      start: { here: "hide", there: "hide", papers: "hide" },
      c: { here: "edit", there: "see" },
      d: { here: "see", there: "edit" },
      l: { total: "edit" },
    },
  });
function begun(...route: Step[]) {
  const h = harness(process(...route), {}, {}, () => ({ files }));
  h.start({ total: "21" });
  return h;
}
type H = ReturnType<typeof begun>;
const did = (h: H, ...ids: string[]) => {
  const [pending] = Object.values(h.state.pending);
  const { id, step, kind } = pending!;
  const result = { files: ids.map((x) => ({ id: x, name: `${x}.pdf`, size: 9, sha256: x })), pages: 2 };
  return h.send({ type: "effect done", effect: { id, step, kind }, result, files: ids } as never);
};
const asked = (h: H) => h.events.filter((e) => e.type === "effect asked").map((e) => e.effect);
const problemsOfAnswer = (r: ReturnType<H["answer"]>) =>
  !r.ok && r.refusal.code === "form" ? r.refusal.data.problems.map((p) => `${p.code} ${p.path}`) : [];

describe("signing a document", () => {
  it("shows what was drawn up, takes no answer without a signature, and has the signed one made", () => {
    const h = begun(
      draw(),
      sign("c", "carmel", "here"),
      decideBy("x", { by: "person", person: "declan" }, [ans("yes", "agree")]),
    );
    did(h, "doc1");
    expect(Object.values(h.state.visits)).toMatchObject([{ paper: { file: "doc1", field: "here" } }]);
    expect(problemsOfAnswer(h.answer("carmel", "done"))).toEqual(["not-signed here"]);
    expect(h.answer("carmel", "done", "", { here: "s1" }).ok).toBe(true);
    expect(h.state.signed).toMatchObject({ here: { document: { file: "doc1" }, value: "s1", by: "carmel" } });
    expect(asked(h).at(-1)).toMatchObject({
      kind: "complete",
      field: "here",
      signs: { document: "doc1", picture: "s1", by: "carmel" },
    });
    expect(h.open()).toEqual([]);
    did(h, "signed1");
    expect(h.state.data["papers"]).toBe("signed1");
    expect(h.open().map((t) => t.step)).toEqual(["x"]);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("is read as what the step came to, beside who signed", () => {
    const d = process(draw(), sign("c", "carmel", "here", { signs: { document: "w", field: "here" } }));
    const made = { ...d, title: "{Signing c.document.name} by {Signing c.by.name}" };
    const h = harness(made, {}, {}, () => ({ files }));
    h.start({ total: "21" });
    did(h, "doc1");
    h.answer("carmel", "done", "", { here: "s1" });
    expect(h.title()).toMatch(/^by Carmel/);
    did(h, "signed1");
    expect(h.title()).toMatch(/^Paper signed\.pdf by Carmel/);
    const wrong = problemsOf(made, { kinds: KINDS, registers: {} }).filter((p) => p.severity === "error");
    expect(wrong).toEqual([]);
  });

  it("says for whom whoever signed stood in", () => {
    const d = process(draw(), sign("c", "carmel", "here"));
    const h = harness(d, { carmel: "fergus" }, {}, () => ({ files }));
    h.start({ total: "21" });
    did(h, "doc1");
    h.answer("fergus", "done", "", { here: "s1" });
    expect(asked(h).at(-1)).toMatchObject({ signs: { by: "fergus", for: "carmel" } });
  });

  it("asks nobody to sign again where only the document could not be made", () => {
    const h = begun(draw(), sign("c", "carmel", "here"));
    did(h, "doc1");
    h.answer("carmel", "done", "", { here: "s1" });
    const [pending] = Object.values(h.state.pending);
    const reason = { code: "not-made-signed" as const, data: { step: "Signing c", message: "no program" } };
    h.send({ type: "effect failed", effect: pending!.id, reason });
    expect(h.state.stuck).toMatchObject([{ step: "c", effect: pending!.id }]);
    h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(h.open()).toEqual([]);
    expect(asked(h).slice(-2)).toEqual([asked(h).at(-1), asked(h).at(-1)]);
    did(h, "signed1");
    expect(h.state.status).toBe("finished");
    // Nor is it an owner's who goes on without that document.
    const on = begun(
      draw(),
      sign("c", "carmel", "here"),
      decideBy("x", { by: "person", person: "declan" }, [ans("yes", "agree")]),
    );
    did(on, "doc1");
    on.answer("carmel", "done", "", { here: "s1" });
    on.send({
      type: "skip",
      actor: "fergus",
      token: Object.keys(on.state.tokens)[0]!,
      way: "done",
      note: "No program",
    });
    expect(on.open().map((t) => t.step)).toEqual(["x"]);
    expect(on.state.outcomes["c"]).toMatchObject({ by: "carmel" });
  });

  it("a signature given for one document is none for the next", () => {
    const back: Step = decideBy("b", { by: "person", person: "declan" }, [
      ans("again", "plain", [{ id: "j", name: "Back", kind: "jump", to: "w" } as Step]),
      ans("yes", "agree"),
    ]);
    const h = begun(draw(), sign("c", "carmel", "here"), back);
    did(h, "doc1");
    h.answer("carmel", "done", "", { here: "s1" });
    did(h, "signed1");
    h.answer("declan", "again");
    did(h, "doc2");
    expect(h.state.data["here"]).toBe(null);
    // Nor is what was signed then what is signed now.
    expect(h.state.kept["c"]).toEqual({ value: null });
    expect(h.state.signed?.["here"]).toBeUndefined();
    expect(problemsOfAnswer(h.answer("carmel", "done"))).toEqual(["not-signed here"]);
    h.answer("carmel", "done", "", { here: "s2" });
    expect(asked(h).at(-1)).toMatchObject({ signs: { document: "doc2", picture: "s2" } });
  });

  it("what is signed is what was shown, whatever is drawn up meanwhile", () => {
    const both: Step = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "b1", name: "one", steps: [sign("c", "carmel", "here")] },
        {
          id: "b2",
          name: "two",
          steps: [
            decideBy("x", { by: "person", person: "declan" }, [ans("yes", "agree")]),
            draw({ id: "w9" }),
          ],
        },
      ],
    } as Step;
    const h = begun(draw(), both);
    did(h, "doc1");
    h.answer("declan", "yes");
    did(h, "doc2");
    h.answer("carmel", "done", "", { here: "s1" });
    expect(asked(h).at(-1)).toMatchObject({ signs: { document: "doc1" } });
  });

  it("is nobody's in another's place: the same picture twice, another's task, nobody at all", () => {
    const both: Step = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "b1", name: "one", steps: [sign("c", "carmel", "here")] },
        { id: "b2", name: "two", steps: [sign("d", "declan", "here")] },
      ],
    } as Step;
    const d = process(draw(), both);
    const h = harness({ ...d, access: { ...d.access, d: { here: "edit" } } }, {}, {}, () => ({ files }));
    h.start({ total: "21" });
    did(h, "doc1");
    h.answer("carmel", "done", "", { here: "s1" });
    // What Carmel signed with stands there now, and is none of Declan's.
    expect(problemsOfAnswer(h.answer("declan", "done"))).toEqual(["not-signed here"]);
    expect(problemsOfAnswer(h.answer("declan", "done", "", { here: "s1" }))).toEqual(["not-signed here"]);
    expect(h.answer("declan", "done", "", { here: "s2" }).ok).toBe(true);
    expect(asked(h).slice(-2)).toMatchObject([
      { signs: { by: "carmel", picture: "s1" } },
      { signs: { by: "declan", picture: "s2" } },
    ]);
    // What of Carmel's could not be made is not made of what Declan signed with.
    const [first] = Object.values(h.state.pending);
    const reason = { code: "not-made-signed" as const, data: { step: "Signing c", message: "no program" } };
    h.send({ type: "effect failed", effect: first!.id, reason });
    h.send({ type: "retry", actor: "fergus", token: h.state.stuck[0]!.token });
    expect(h.open().map((t) => t.step)).toEqual(["c"]);
    // One after the other they sign one document.
    const two = begun(
      draw(),
      sign("c", "carmel", "here"),
      sign("d", "declan", "there", { signs: { document: "c", field: "there" } }),
    );
    did(two, "doc1");
    two.answer("carmel", "done", "", { here: "s1" });
    expect(problemsOfAnswer(two.answer("declan", "done", "", { there: "s1" }))).toEqual([]);
    did(two, "signed1");
    expect(problemsOfAnswer(two.answer("declan", "done", "", { there: "s1" }))).toEqual([
      "signed-elsewhere there",
    ]);
    two.answer("declan", "done", "", { there: "s2" });
    expect(asked(two).at(-1)).toMatchObject({ signs: { document: "signed1", picture: "s2", by: "declan" } });
  });

  it("in rounds a retry makes nothing of what was signed in another round", () => {
    const each = {
      id: "each",
      name: "Slips",
      kind: "for each",
      over: { list: "[1, 2]" },
      item: "Thing",
      bodies: [{ id: "body", steps: [draw(), sign("c", "carmel", "here")] }],
    } as unknown as Step;
    const h = begun(each);
    did(h, "doc1");
    did(h, "doc2");
    const papers = Object.values(h.state.visits).map((v) => v.paper?.file);
    expect(papers.sort()).toEqual(["doc1", "doc2"]);
    h.answer("carmel", "done", "", { here: "s1" });
    h.answer("carmel", "done", "", { here: "s2" });
    const [first, second] = asked(h).slice(-2) as {
      id: string;
      signs: { document: string; picture: string };
    }[];
    expect([first!.signs.picture, second!.signs.picture]).toEqual(["s1", "s2"]);
    expect(first!.signs.document).not.toBe(second!.signs.document);
    const reason = { code: "not-made-signed" as const, data: { step: "Signing c", message: "no program" } };
    h.send({ type: "effect failed", effect: first!.id, reason });
    h.send({ type: "retry", actor: "fergus", token: h.state.stuck[0]!.token });
    // The field holds what was given in the second round; of the first it is asked for anew.
    expect(h.open().map((t) => t.step)).toEqual(["c"]);
    expect(Object.values(h.state.visits)).toMatchObject([{ paper: { file: first!.signs.document } }]);
  });

  it("an owner who lets it go on, or a ladder that answers, signs nothing", () => {
    const h = begun(draw(), sign("c", "carmel", "here"));
    did(h, "doc1");
    h.send({
      type: "skip",
      actor: "fergus",
      token: Object.keys(h.state.tokens)[0]!,
      way: "done",
      note: "Signed on paper",
    });
    expect(h.state.status).toBe("finished");
    expect(asked(h).map((e) => e.kind)).toEqual(["draw up"]);
    expect(h.state.data["papers"]).toBeFalsy();
    const limit = {
      otherwise: { amount: 1, unit: "hours" },
      rungs: [{ id: "r", when: "at", action: { do: "answer", answer: "done", note: "" } }],
    };
    const late = begun(draw(), sign("c", "carmel", "here", { limit }));
    did(late, "doc1");
    late.at(Date.UTC(2026, 2, 4, 10));
    late.send({ type: "time reached", timer: Object.keys(late.state.timers)[0]! });
    expect(late.state.status).toBe("finished");
    expect(asked(late).map((e) => e.kind)).toEqual(["draw up"]);
  });

  it("is signed in rounds, too, where it was drawn up before them", () => {
    const each = {
      id: "each",
      name: "Slips",
      kind: "for each",
      over: { list: "[1, 2]" },
      item: "Thing",
      bodies: [{ id: "body", steps: [sign("c", "carmel", "here")] }],
    } as unknown as Step;
    const h = begun(draw(), each);
    did(h, "doc1");
    expect(Object.values(h.state.visits).map((v) => v.paper?.file)).toEqual(["doc1", "doc1"]);
  });

  it("says in the document where its places are, and in what is repeated none", () => {
    const tags: DocumentTemplate["tags"] = (
      [
        { tag: "picture", of: "Sign here" },
        { tag: "picture", of: "Papers[1]" },
        { tag: "each", of: '[{Sign here: "another"}]' },
        { tag: "picture", of: "Sign here" },
        { tag: "end" },
      ] as const
    ).map((t) => ({ ...t, piece: 0, in: "text", near: "x" }));
    const d = { ...process(draw()), documents: [{ ...template(), tags }] };
    const h = harness(d, {}, {}, () => ({ files }));
    h.start({ total: "21" });
    expect(asked(h)[0]).toMatchObject({
      filled: [{ picture: null, signs: "here" }, { picture: null }, { times: [[{ picture: null }]] }],
    });
    expect(JSON.stringify(asked(h)[0]).match(/"signs"/g)).toHaveLength(1);
  });

  it("holds up no sample, of which nothing is drawn up", () => {
    const d = process(draw(), sign("c", "carmel", "here"));
    const path = samplePath(compileRelease(d, {}, KINDS), "una", { total: "21" }, officeFacts(T0, { files }));
    expect(path).toMatchObject({ stop: null, stuck: null, result: "done" });
  });

  it("stops where nothing was drawn up", () => {
    const h = begun(sign("c", "carmel", "here"));
    expect(h.state.stuck).toMatchObject([{ reason: { code: "nothing-to-sign" } }]);
    expect(h.open()).toEqual([]);
    const docx = begun(draw({ as: "docx" }), sign("c", "carmel", "here"));
    did(docx, "doc1");
    expect(docx.state.stuck).toMatchObject([{ reason: { code: "nothing-to-sign" } }]);
  });

  it("is forgotten with what is personal", () => {
    const h = begun(draw({ into: "papers" }), sign("c", "carmel", "here"));
    did(h, "doc1");
    h.answer("carmel", "done", "", { here: "s1" });
    did(h, "signed1");
    const d = process(draw({ into: "papers" }), sign("c", "carmel", "here"));
    const gone = { fields: new Set(["here", "papers"]), inCalls: true, asker: true, notesOf: null };
    const left = forgetEvents(h.events, compileRelease(d, {}, KINDS), gone);
    expect(
      JSON.stringify(left.filter((e) => e.type === "data changed" || e.type === "values set")),
    ).not.toMatch(/signed1|s1/);
    expect(replay(left, NEW_REQUEST).status).toBe("finished");
  });
});

describe("what is wrong with signing", () => {
  const wrong = (d: ProcessDefinition) =>
    problemsOf(d, { kinds: KINDS, registers: {} }).flatMap((p) =>
      p.where.id === "c" || p.code === "read-before-set" ? [p.code] : [],
    );
  const with_ = (more: Partial<StepOf<"complete">>, change: Partial<ProcessDefinition> = {}) => ({
    ...process(draw(), sign("c", "carmel", "here", more)),
    documents: [template("Sign here")],
    ...change,
  });
  /** All that is told of the step alone. */
  const here = (d: ProcessDefinition) => wrong(d).filter((code) => code !== "read-before-set");
  const at = (document: string, field: string, into?: string) => ({
    signs: { document, field, ...(into ? { into } : {}) },
  });

  it("is told, each where it is", () => {
    expect(wrong(with_({}))).toEqual([]);
    expect(here(with_(at("gone", "here")))).toEqual(["nothing-to-sign"]);
    expect(here(with_(at("c", "here")))).toEqual(["nothing-to-sign"]);
    expect(here(with_(at("w", "total")))).toEqual(["no-signature"]);
    expect(here(with_(at("w", "gone")))).toEqual(["no-signature"]);
    expect(here(with_(at("w", "here", "total")))).toEqual(["no-field"]);
    expect(here(with_(at("w", "there")))).toEqual([
      "cannot-sign",
      "no-place-to-sign",
      "changed-while-signed",
    ]);
    expect(here(with_({ beside: "stays" }))).toEqual(["signed-beside"]);
    expect(here(with_({ who: { rule: { by: "person", person: "carmel" }, how: "all" } }))).toEqual([
      "several-sign",
    ]);
    expect(here(with_({}, { documents: [template("Sign there")] }))).toEqual(["no-place-to-sign"]);
    const late = process(sign("c", "carmel", "here"), draw());
    expect(here(late)).toEqual(["signed-too-early"]);
    expect(here(process(draw({ as: "docx" }), sign("c", "carmel", "here")))).toEqual(["no-pages-to-sign"]);
  });

  it("where somebody could not sign, and where they change or do not see what they sign", () => {
    const d = with_({});
    const shown = FIELDS.map((f) => (f.id === "here" ? { ...f, shown: "Total > 5" } : f));
    expect(wrong({ ...d, fields: shown })).toEqual(["may-not-sign"]);
    const says = {
      ...template("Sign here"),
      tags: [
        ...template("Sign here").tags,
        { tag: "value" as const, of: "Total", piece: 0, in: "text" as const, near: "x" },
      ],
    };
    const access = (total: "edit" | "hide") => ({ ...d.access, c: { here: "edit" as const, total } });
    expect(wrong({ ...d, documents: [says] })).toEqual([]);
    expect(wrong({ ...d, documents: [says], access: access("edit") })).toEqual(["changed-while-signed"]);
    expect(wrong({ ...d, documents: [says], access: access("hide") })).toEqual(["hidden-in-text"]);
  });

  it("also where that stands one level deeper: in a column, or behind what is worked out", () => {
    const lines: Field = {
      id: "rows",
      name: "Rows",
      kind: "lines",
      fields: [
        { id: "what", name: "What", kind: "text" },
        { id: "price", name: "Price", kind: "money" },
      ],
    } as Field;
    const fields = [
      ...FIELDS,
      lines,
      { id: "sum", name: "Sum", kind: "money", worked: "sum(Rows.Price)" } as Field,
      { id: "twice", name: "Twice", kind: "money", worked: "Sum * 2" } as Field,
    ];
    const d = with_({});
    const says = (...said: TagSaid[]) => ({
      ...template("Sign here"),
      tags: [
        ...template("Sign here").tags,
        ...said.map((t) => ({ ...t, piece: 0, in: "text" as const, near: "x" })),
      ],
    });
    const told = (at: ProcessDefinition["access"][string], ...said: TagSaid[]) =>
      here({ ...d, fields, documents: [says(...said)], access: { ...d.access, c: { here: "edit", ...at } } });
    const each: TagSaid[] = [{ tag: "each", of: "Rows" }, { tag: "value", of: "What" }, { tag: "end" }];
    expect(told({}, ...each)).toEqual([]);
    expect(told({ what: "hide" }, ...each)).toEqual(["hidden-in-text"]);
    expect(told({ what: "edit" }, ...each)).toEqual(["changed-while-signed"]);
    const twice: TagSaid = { tag: "value", of: "Twice" };
    expect(told({}, twice)).toEqual([]);
    expect(told({ price: "edit" }, twice)).toEqual(["changed-while-signed"]);
    expect(told({ what: "edit" }, twice)).toEqual([]);
    expect(told({ price: "hide" }, twice)).toEqual([]);
  });

  it("a field that cannot be filled in there is mended at a press", () => {
    const d = with_(at("w", "there"));
    const { mend } = problemsOf(d, { kinds: KINDS, registers: {} }).find((p) => p.code === "cannot-sign")!;
    const mended = applyEdit(d, mend!.edit, { kinds: KINDS, registers: {} });
    expect(mended.ok && here(mended.definition)).toEqual(["no-place-to-sign", "changed-while-signed"]);
  });
});

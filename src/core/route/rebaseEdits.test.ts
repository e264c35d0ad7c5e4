import { findField } from "../form";
import { rebaseEdits, withoutPaths, type Edit, type ProcessDefinition } from ".";
import { AROUND, apply, base, fin } from "./testDefinition";

const behind = (theirs: Edit[], mine: Edit[], from: ProcessDefinition = base) =>
  rebaseEdits(from, theirs, mine, AROUND);
const rate = (id: string): Edit => ({
  op: "field.add",
  parent: null,
  after: "grand",
  field: { id, name: "Rate", kind: "number" },
});

it("numbers a name that others gave meanwhile; formulas go on reading what they were written for", () => {
  const mine: Edit[] = [
    rate("mine"),
    { op: "field.set", id: "total", patch: { worked: "Rate * 2" } },
    { op: "field.rename", id: "urgent", name: "Hot" },
  ];
  const theirs: Edit[] = [
    rate("theirs"),
    { op: "field.rename", id: "qty", name: "Pieces" },
    { op: "field.add", parent: null, after: null, field: { id: "h", name: "Hot", kind: "text" } },
  ];
  const r = behind(theirs, mine);
  expect([r.clashes, r.refused]).toEqual([[], []]);
  const field = (id: string) => findField(r.definition.fields, id)!.field;
  expect([field("mine").name, field("theirs").name, field("urgent").name, field("h").name]).toEqual([
    "Rate 2",
    "Rate",
    "Hot 2",
    "Hot",
  ]);
  expect(field("total").worked).toBe("Rate 2 * 2");
});

it("both rows behind the same row stand behind it; behind a row that is gone, behind the one before", () => {
  const add = (id: string, after: string): Edit => ({
    op: "step.add",
    to: { owner: null, list: null },
    after,
    step: fin(id),
  });
  const both = behind([add("t", "c1")], [add("m", "c1")]);
  expect(both.definition.route.map((s) => s.id)).toEqual(["d1", "c1", "m", "t", "g1", "f3"]);
  const gone = behind([{ op: "step.remove", id: "g1" }], [add("m", "g1")]);
  expect([gone.clashes, gone.refused]).toEqual([[], []]);
  expect(gone.definition.route.map((s) => s.id)).toEqual(["d1", "c1", "m", "f3"]);
  // One of several of mine, behind another of mine that stood behind what is gone.
  const chain = behind([{ op: "step.remove", id: "g1" }], [add("m1", "g1"), add("m2", "m1")]);
  expect(chain.definition.route.map((s) => s.id)).toEqual(["d1", "c1", "m1", "m2", "f3"]);
});

it("what is moved behind a row that is gone stands behind the one before that is not itself", () => {
  const move: Edit = { op: "step.move", id: "g1", to: { owner: null, list: null }, after: "f3" };
  const r = behind([{ op: "step.remove", id: "f3" }], [move]);
  expect([r.clashes, r.refused]).toEqual([[], []]);
  expect(r.definition.route.map((s) => s.id)).toEqual(["d1", "c1", "g1"]);
});

it("puts a sample together from what each typed in it", () => {
  const sample = { id: "x", name: "X", requester: "una", data: { total: "1", urgent: true } };
  const from = { ...base, samples: [sample] };
  const put = (change: object): Edit => ({ op: "sample.put", after: null, sample: { ...sample, ...change } });
  const r = behind(
    [put({ data: { total: "1", urgent: false } })],
    [put({ data: { total: "2", urgent: true } })],
    from,
  );
  expect(r.clashes).toEqual([]);
  expect(r.definition.samples[0]!.data).toEqual({ total: "2", urgent: false });
  const same = behind([put({ requester: "ines" })], [put({ requester: "brendan" })], from);
  expect(same.clashes).toMatchObject([{ mine: "brendan", theirs: "ines" }]);
});

it("puts a letter together from what each wrote in it", () => {
  const text = (language: string, subject: string) => ({ language, subject, parts: [] });
  const letter = { id: "l", name: "Receipt", texts: [text("en", "Here"), text("fr", "Voici")] };
  const from = { ...base, letters: [letter] };
  const put = (change: object): Edit => ({ op: "letter.put", after: null, letter: { ...letter, ...change } });
  const theirs = put({ name: "Slip", texts: [text("en", "There"), text("fr", "Voici")] });
  const mine = put({ texts: [text("en", "Here"), text("fr", "Voilà"), text("ga", "Seo")] });
  const r = behind([theirs], [mine], from);
  expect(r.clashes).toEqual([]);
  expect(r.definition.letters).toEqual([
    { ...letter, name: "Slip", texts: [text("en", "There"), text("fr", "Voilà"), text("ga", "Seo")] },
  ]);
  // What one took away is gone, and what the other took away too.
  const without = behind([put({ texts: [text("en", "Here")] })], [put({ name: "Slip" })], from);
  expect(without.definition.letters).toEqual([{ ...letter, name: "Slip", texts: [text("en", "Here")] }]);
});

it("puts a template together from the tags each mended, and asks where another file came", () => {
  const tag = (of: string) => ({ tag: "value" as const, of, piece: 0, in: "text" as const, near: "" });
  const document = {
    id: "t",
    name: "Slip",
    file: { sha256: "0".repeat(64), name: "a.docx", size: 1 },
    tags: [tag("A"), tag("B")],
  };
  const from = { ...base, documents: [document] };
  const put = (change: object): Edit => ({
    op: "document.put",
    after: null,
    document: { ...document, ...change },
  });
  const r = behind(
    [put({ tags: [tag("Total"), tag("B")] })],
    [put({ tags: [tag("A"), tag("Urgent")] })],
    from,
  );
  expect(r.clashes).toEqual([]);
  expect(r.definition.documents![0]!.tags).toEqual([tag("Total"), tag("Urgent")]);
  const other = { file: { ...document.file, sha256: "1".repeat(64) }, tags: [tag("C")] };
  expect(behind([put(other)], [put({ tags: [tag("Total"), tag("B")] })], from).clashes).toHaveLength(1);
  const brought = behind([put({ name: "Paper" })], [put(other)], from);
  expect(brought.clashes).toEqual([]);
  expect(brought.definition.documents).toEqual([{ ...document, ...other, name: "Paper" }]);
});

describe("what two people changed of the same", () => {
  const clash = (theirs: Edit, mine: Edit) => behind([theirs], [mine]).clashes;
  const inside: Edit = { op: "step.set", id: "f2", patch: { result: "tiny" } };
  it("is asked about, also where one took away what the other changed inside it", () => {
    expect(
      clash(
        { op: "field.set", id: "total", patch: { needed: "true" } },
        { op: "field.set", id: "total", patch: { needed: "Urgent" } },
      ),
    ).toMatchObject([{ says: "“Total”, needed when", mine: "Urgent", theirs: "true", gone: false }]);
    expect(clash(inside, { op: "list.remove", step: "c1", list: "w1" })).toMatchObject([
      { theirs: "tiny", gone: false },
    ]);
    expect(clash(inside, { op: "step.remove", id: "c1" })).toHaveLength(1);
    expect(clash({ op: "step.remove", id: "c1" }, inside)).toMatchObject([{ mine: "tiny", gone: true }]);
    expect(
      clash({ op: "field.remove", id: "sec" }, { op: "field.set", id: "urgent", patch: { help: "x" } }),
    ).toMatchObject([{ gone: true }]);
    expect(
      clash({ op: "step.remove", id: "d1" }, { op: "access.set", step: "d1", field: "total", access: "see" }),
    ).toHaveLength(1);
    expect(clash(rate("a"), { op: "process.replace", definition: base })).toHaveLength(1);
  });
  it("is not, where it is another property, or the same value", () => {
    expect(
      clash(
        { op: "field.set", id: "total", patch: { needed: "true" } },
        { op: "field.set", id: "total", patch: { help: "x" } },
      ),
    ).toEqual([]);
    expect(clash(inside, inside)).toEqual([]);
    expect(clash(inside, { op: "step.set", id: "f1", patch: { result: "x" } })).toEqual([]);
  });
  it("is left out of mine where theirs is taken, the rest of mine stays", () => {
    const mine: Edit[] = [
      { op: "field.set", id: "total", patch: { needed: "Urgent", help: "x" } },
      { op: "batch", edits: [{ op: "field.set", id: "total", patch: { needed: "Urgent" } }] },
    ];
    const { clashes } = behind([{ op: "field.set", id: "total", patch: { needed: "true" } }], mine);
    expect(
      withoutPaths(
        base,
        mine,
        clashes.map((c) => c.path),
        AROUND,
      ),
    ).toEqual([{ op: "field.set", id: "total", patch: { help: "x" } }]);
  });
});

it("refuses what would mean something else because of theirs, with the place", () => {
  // A column they add has the name of a field that a formula of mine reads in that table.
  const column: Edit = {
    op: "field.add",
    parent: "lines",
    after: null,
    field: { id: "u", name: "Urgent", kind: "yes or no" },
  };
  const mine: Edit[] = [
    { op: "field.set", id: "lt", patch: { worked: "if Urgent then 1 else Price" } },
    { op: "field.set", id: "qty", patch: { help: "pieces" } },
  ];
  const r = behind([column], mine);
  expect(r.refused).toMatchObject([{ at: 0, refusal: { code: "other-meaning" } }]);
  expect(findField(r.definition.fields, "qty")!.field.help).toBe("pieces");
  expect(findField(r.definition.fields, "lt")!.field.worked).toBe("Price * Quantity");
  expect(apply(base, column).definition).toBeDefined();
});

import { createHash } from "node:crypto";
import fc from "fast-check";
import type { Access } from "./access";
import type { Field, FormData, Stored, StoredRow } from "./field";
import { asSigned, fieldsToSign, fingerprint, signaturesShown, type Signed } from "./signing";

const FIELDS: Field[] = [
  {
    id: "p",
    name: "Who",
    kind: "page",
    fields: [
      { id: "name", name: "Name", kind: "text", label: "Who borrows?" },
      { id: "note", name: "Note", kind: "text block", text: "Read this." },
      {
        id: "rows",
        name: "Objects",
        kind: "lines",
        fields: [
          { id: "what", name: "What", kind: "text" },
          { id: "worth", name: "Worth", kind: "money" },
        ],
      },
    ],
  },
  { id: "office", name: "Office", kind: "text" },
  { id: "one", name: "First signature", kind: "signature" },
  { id: "two", name: "Second signature", kind: "signature" },
];
const ALL = new Set(["p", "name", "note", "rows", "office", "one", "two"]);
const signs = (k: Field["kind"]) => k === "signature";
const may =
  (but: Record<string, Access> = {}) =>
  (id: string): Access =>
    but[id] ?? "edit";

describe("what is signed", () => {
  it("is what whoever signs is shown, columns included, and no signature", () => {
    expect(fieldsToSign(FIELDS, undefined, may(), ALL, signs)).toEqual([
      "name",
      "rows",
      "what",
      "worth",
      "office",
    ]);
  });
  it("is nothing that is hidden: a column, a field, all of a page, what does not come up", () => {
    const of = (but: Record<string, Access>, shown = ALL) =>
      fieldsToSign(FIELDS, undefined, may(but), shown, signs);
    expect(of({ worth: "hide", office: "hide" })).toEqual(["name", "rows", "what"]);
    expect(of({ p: "hide" })).toEqual(["office"]);
    expect(of({ rows: "hide" })).toEqual(["name", "office"]);
    expect(of({}, new Set(["p", "name", "office"]))).toEqual(["name", "office"]);
  });
  it("is what the step shows, in its order", () => {
    const form = { parts: ["office", "rows"], columns: ["worth"] };
    expect(fieldsToSign(FIELDS, form, may(), ALL, signs)).toEqual(["office", "rows", "worth"]);
  });
});

const SIGNED = ["name", "rows", "what", "office"];
const text = fc.oneof(fc.string(), fc.constant(null), fc.boolean());
const row = fc.record({ what: text, worth: fc.constantFrom("1", "2", null) });
const data: fc.Arbitrary<FormData> = fc
  .record({ name: text, office: text, one: text, rows: fc.array(row, { maxLength: 4 }) })
  .map(({ rows, ...d }) => ({ ...d, rows: rows.map((r, i): StoredRow => ({ "#": String(i + 1), ...r })) }));
const of = (d: FormData) => fingerprint(FIELDS, d, SIGNED, "r1");

describe("its fingerprint", () => {
  it("is that of the canonical text of it", () => {
    const d: FormData = { office: "Tower", name: "Ún\u0061", rows: [{ worth: "9", "#": "1", what: true }] };
    const canonical =
      '{"fields":[{"id":"name","label":"Who borrows?","value":"Úna"},' +
      '{"columns":[{"id":"what","label":"What"}],"id":"rows","label":"Objects","value":[["1",true]]},' +
      '{"id":"office","label":"Office","value":"Tower"}],"release":"r1"}';
    expect(of(d)).toBe(createHash("sha256").update(canonical).digest("hex"));
  });

  const empty = (v: Stored | undefined) => v ?? null;
  const said = (d: FormData) => [
    empty(d["name"] === "" ? null : d["name"]),
    (d["rows"] as StoredRow[]).map((r) => [r["#"], empty(r["what"] === "" ? null : r["what"])]),
    empty(d["office"] === "" ? null : d["office"]),
  ];
  it("is the same for the same values and for no others, whatever else stands in the form", () => {
    fc.assert(
      fc.property(data, data, fc.boolean(), (a, b, near) => {
        // Mostly different; near, they differ in what was not signed at the most.
        const other: FormData = near
          ? {
              ...a,
              one: b["one"] ?? null,
              rows: (a["rows"] as StoredRow[]).map((r) => ({ ...r, worth: "7" })),
            }
          : b;
        expect(of(a) === of(other)).toBe(JSON.stringify(said(a)) === JSON.stringify(said(other)));
      }),
      { endOnFailure: true },
    );
  });
  it("hangs on no order in which the database keeps the columns of a row, and on the order of rows", () => {
    const rows = [
      { "#": "1", what: "a", worth: "1" },
      { "#": "2", what: "b", worth: "2" },
    ];
    const turned = rows.map((r) => Object.fromEntries(Object.entries(r).reverse()) as unknown as StoredRow);
    expect(of({ rows })).toBe(of({ rows: turned }));
    expect(of({ rows })).not.toBe(of({ rows: [...rows].reverse() }));
  });
  it("is the same however nothing is kept", () => {
    const all = [undefined, null, ""].map((v) =>
      of({ name: "Una", office: v as Stored, rows: [{ "#": "1", what: v as null }] }),
    );
    expect(new Set(all).size).toBe(1);
  });
  it("is another one for another release, another label, or fewer fields", () => {
    const d: FormData = { name: "Una", office: "Tower" };
    const called = FIELDS.map((f) => (f.id === "office" ? { ...f, label: "Which office?" } : f));
    const all = [
      of(d),
      fingerprint(FIELDS, d, SIGNED, "r2"),
      fingerprint(called, d, SIGNED, "r1"),
      fingerprint(FIELDS, d, ["name", "office"], "r1"),
      fingerprint(FIELDS, d, ["office", "name"], "r1"),
    ];
    expect(new Set(all).size).toBe(5);
  });
});

describe("what is told of it later", () => {
  const then: FormData = {
    name: "Una",
    office: "Tower",
    one: "f1",
    rows: [{ "#": "1", what: "Drum", worth: "5" }],
  };
  const signed: Signed = {
    by: "una",
    at: 5,
    seq: 2,
    value: "f1",
    fields: SIGNED,
    hash: fingerprint(FIELDS, then, SIGNED, "r1"),
  };
  const told = (
    change: FormData,
    changedAt: Record<string, number>,
    access = may(),
    more: Partial<Signed> = {},
  ) => {
    const state = { data: { ...then, ...change }, changedAt, signed: { one: { ...signed, ...more } } };
    return signaturesShown(FIELDS, state, "r1", access, (id) => `<${id}>`);
  };
  it("stands while all is as it was, also when it was changed and changed back", () => {
    expect(told({}, { office: 1 })["one"]).toMatchObject({ by: "<una>", same: true, changed: [] });
    expect(told({}, { office: 9 })["one"]).toMatchObject({ same: true, changed: [] });
    expect(told({ one: "f1" }, { worth: 9 })["one"]).toMatchObject({ same: true });
  });
  it("names what changed since, and what its reader may not see only as something", () => {
    const change = { office: "Cellar", rows: [{ "#": "1", what: "Bell", worth: "5" }] };
    const at = { office: 4, "rows/what": 4, name: 1 };
    expect(told(change, at)["one"]).toMatchObject({
      same: false,
      changed: ["Objects: What", "Office"],
      beyond: false,
    });
    expect(told(change, at, may({ office: "hide" }))["one"]).toMatchObject({
      changed: ["Objects: What"],
      beyond: true,
    });
    expect(told(change, at, may({ p: "hide" }))["one"]).toMatchObject({ changed: ["Office"], beyond: true });
  });
  it("is told to nobody who may not see the signature, and cannot be compared once some of it is blanked", () => {
    expect(told({}, {}, may({ one: "hide" }))).toEqual({});
    expect(told({ name: null }, {}, may(), { hash: "" })["one"]).toMatchObject({ same: null, changed: [] });
    expect(asSigned(FIELDS, then, { fields: SIGNED, hash: "" }, "r1")).toBe(null);
  });
});

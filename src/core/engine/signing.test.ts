import fc from "fast-check";
import { fingerprint, personParty, type Field, type FileFacts } from "../form";
import { KINDS } from "@/kinds";
import { compileRelease, evolve, forgetEvents, NEW_REQUEST } from ".";
import { replay } from "./evolve";
import { signaturesReused } from "./signaturesReused";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

const file = (id: string, name = "Signature.png"): FileFacts => ({
  id,
  name,
  size: 9000,
  type: "image/png",
  at: 0,
});
const files = Object.fromEntries(
  [file("f1"), file("f2"), file("f3"), file("paper", "Offer.pdf")].map((f) => [f.id, f]),
);
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "secret", name: "Secret", kind: "text" },
  { id: "asks", name: "Asker signs", kind: "signature" },
  { id: "decides", name: "Decider signs", kind: "signature" },
];
const ANSWERS = [ans("yes", "agree"), ans("no", "refuse")];
const make = (more: { needed?: string; personal?: true } = {}) => {
  const fields = FIELDS.map((f) => (f.id === "total" ? { ...f, ...more } : f));
  const definition = definitionOf(
    [
      decideBy("d", { by: "person", person: "declan" }, ANSWERS),
      decideBy("n", { by: "person", person: "carmel" }, ANSWERS),
      fin("e", "done"),
    ],
    {
      fields,
      access: {
        start: { secret: "hide", decides: "hide" },
        d: { total: "edit", secret: "edit", asks: "see", decides: "edit" },
        n: { total: "edit", secret: "hide", asks: "edit", decides: "see" },
      },
    },
  );
  return { definition, h: harness(definition, {}, {}, () => ({ files })) };
};

it("is told with who, of what they were shown, and after the values it stands for", () => {
  const { h, definition } = make();
  expect(h.start({ total: "100", asks: "f1" }).ok).toBe(true);
  const [started, signed] = h.events;
  expect(started!.type).toBe("request started");
  const hash = fingerprint(definition.fields, { total: "100" }, ["total"], "");
  expect(signed).toMatchObject({
    type: "signed",
    by: "una",
    field: "asks",
    value: "f1",
    fields: ["total"],
    hash,
  });
  expect(h.state.signed).toMatchObject({ asks: { by: "una", seq: 2, value: "f1", hash } });
  // Another signs what they see, which is more.
  h.answer("declan", "yes", "", { total: "90", secret: "s", decides: "f2" });
  expect(h.state.signed).toMatchObject({
    asks: { by: "una", hash },
    decides: { by: "declan", fields: ["total", "secret"] },
  });
  const types = h.events.map((e) => e.type);
  expect(types.indexOf("data changed")).toBe(types.lastIndexOf("signed") - 1);
});
it("is of what the step shows, where it shows less", () => {
  const { definition } = make();
  const forms = { d: { parts: ["decides", "secret"] } };
  const h = harness({ ...definition, forms }, {}, {}, () => ({ files }));
  h.start({ total: "100" });
  h.answer("declan", "yes", "", { secret: "s", decides: "f2" });
  expect(h.state.signed).toMatchObject({ decides: { fields: ["secret"] } });
});
it("is nobody's where the request fills itself in, or others hand it over", () => {
  const { h } = make();
  const start = {
    type: "start",
    requester: personParty("una"),
    number: "TEST-0001",
    data: { asks: "f1" },
  } as const;
  expect(h.send({ ...start, actor: null }).ok).toBe(true);
  expect(h.state).toMatchObject({ data: { asks: "f1" } });
  expect(h.state.signed).toBe(undefined);
  const other = make().h;
  const handed = other.send({ ...start, actor: "una", handed: true });
  expect(handed.ok).toBe(true);
  expect(other.state.signed).toBe(undefined);
});
it("is none where nothing was signed, nor again when the same value is sent again", () => {
  const { h } = make();
  h.start({ total: "100", asks: "f1" });
  h.answer("declan", "yes", "", { total: "100" });
  expect(h.answer("carmel", "yes", "", { total: "80", asks: "f1" }).ok).toBe(true);
  expect(h.events.filter((e) => e.type === "signed")).toHaveLength(1);
});
it("goes with its value: another one is another signature, an empty one is none", () => {
  const { h } = make();
  h.start({ total: "100", asks: "f1" });
  h.answer("declan", "yes", "", {});
  h.answer("carmel", "yes", "", { asks: "f3" });
  expect(h.state.signed).toMatchObject({ asks: { by: "carmel", value: "f3" } });
  const e = { type: "data changed", data: { asks: null }, seq: 99, at: 0, by: "carmel" } as const;
  expect(evolve(h.state, e).signed).toBe(undefined);
  expect(evolve(h.state, { ...e, data: { total: "1" } }).signed).toEqual(h.state.signed);
});
it("is kept with an answer that refuses, and with none that is refused", () => {
  const { h } = make({ needed: "true" });
  h.start({ total: "100" });
  expect(h.answer("declan", "yes", "", { total: "", decides: "f2" }).ok).toBe(false);
  expect(h.state.signed).toBe(undefined);
  expect(h.answer("declan", "no", "", { total: "", decides: "f2" }).ok).toBe(true);
  expect(h.state.signed).toMatchObject({ decides: { by: "declan", fields: ["total", "secret"] } });
});
it("takes nothing that is no picture of one, nor what is not there", () => {
  for (const [asks, code] of [
    ["paper", "wrong-file"],
    ["nowhere", "no-file"],
    ["typed:Una", "no-file"],
  ]) {
    const r = make().h.start({ total: "1", asks: asks! });
    expect(r).toMatchObject({ ok: false, refusal: { data: { problems: [{ path: "asks", code }] } } });
  }
});
it("is nobody else's that stands in the form already, and not the same twice", () => {
  const { h } = make();
  h.start({ total: "100", asks: "f1" });
  const reused = (field: string) => ({
    ok: false,
    refusal: { code: "form", data: { problems: [{ code: "signed-elsewhere", path: field }] } },
  });
  expect(h.answer("declan", "yes", "", { decides: "f1" })).toMatchObject(reused("decides"));
  expect(h.answer("declan", "no", "", { decides: "f1", total: "90" }).ok).toBe(true);
  // Who refuses is not held up by it, and does not sign with it either.
  expect(h.state.data).toMatchObject({ total: "90", decides: null });
  expect(h.state.signed).toEqual({ asks: expect.objectContaining({ by: "una" }) });
  const rows: Field = {
    id: "rows",
    name: "Papers",
    kind: "lines",
    fields: [{ id: "paper", name: "Paper", kind: "file" }],
  };
  const withRows = harness(
    definitionOf([decideBy("d", { by: "person", person: "declan" }, ANSWERS), fin("e", "done")], {
      fields: [...FIELDS, rows],
      access: { d: { decides: "edit" } },
    }),
    {},
    {},
    () => ({ files }),
  );
  expect(withRows.start({ rows: [{ "#": "1", paper: "f3" }] } as never).ok).toBe(true);
  expect(withRows.answer("declan", "yes", "", { decides: "f3" })).toMatchObject(reused("decides"));
  const both = harness(definitionOf([fin("e", "done")], { fields: FIELDS }), {}, {}, () => ({ files }));
  expect(both.start({ asks: "f1", decides: "f1" })).toMatchObject(reused("decides"));
});
it("of random values exactly those are new signatures that stood nowhere and are given once", () => {
  const fields: Field[] = [
    ...FIELDS,
    { id: "rows", name: "Papers", kind: "lines", fields: [{ id: "paper", name: "Paper", kind: "file" }] },
  ];
  const release = compileRelease(definitionOf([fin("e", "done")], { fields }), {}, KINDS);
  const id = fc.constantFrom("f1", "f2", "f3", "", null);
  const values = fc.record({
    asks: id,
    decides: id,
    secret: id,
    rows: fc.array(fc.record({ "#": fc.constantFrom("f1", "2"), paper: id }), { maxLength: 2 }),
  });
  fc.assert(
    fc.property(values, values, (before, after) => {
      const stood = [before.asks, before.decides, before.secret, ...before.rows.map((r) => r.paper)];
      const fresh = (["asks", "decides"] as const).filter((f) => after[f] && after[f] !== before[f]);
      const bad = fresh.filter(
        (f, i) => stood.includes(after[f]) || fresh.slice(0, i).some((g) => after[g] === after[f]),
      );
      expect(signaturesReused(release, before, after).map((p) => p.path)).toEqual(bad);
    }),
    { endOnFailure: true },
  );
});
it("comes in through no step at which it cannot be given", () => {
  const { h } = make();
  h.start({ total: "100", asks: "f1", decides: "f2" });
  expect(h.state.signed).toEqual({ asks: expect.objectContaining({ value: "f1" }) });
  h.answer("declan", "yes", "", { asks: "f3" });
  expect(h.state.signed).toMatchObject({ asks: { value: "f1" } });
});
it("its fingerprint goes with what is forgotten, and stays where nothing of it is", () => {
  const { h, definition } = make({ personal: true });
  h.start({ total: "100", asks: "f1" });
  const release = compileRelease(definition, {}, KINDS);
  const left = (fields: string[]) => {
    const gone = { fields: new Set(fields), inCalls: false, asker: false, notesOf: null };
    return replay(forgetEvents(h.events, release, gone), NEW_REQUEST).signed?.["asks"];
  };
  expect(left(["secret"])).toMatchObject({ value: "f1", hash: expect.stringMatching(/^[0-9a-f]{64}$/) });
  expect(left(["total"])).toMatchObject({ value: "f1", hash: "" });
  expect(left(["asks"])).toMatchObject({ value: "", hash: "" });
});

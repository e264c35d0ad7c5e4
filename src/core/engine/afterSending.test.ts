import fc from "fast-check";
import { saysItsPlace, type Access, type AfterSending, type Field } from "../form";
import { KINDS } from "@/kinds";
import { afterSending, compileRelease, sentOf, Turn } from ".";
import { definitionOf, fin, harness, T0 } from "./testRequest";
import { officeFacts } from "./testOffice";

const came = (sent: AfterSending | undefined, access: Record<string, Access> = {}) => {
  const d = definitionOf([fin("e", "done")], {
    starts: [{ id: "form", kind: "form", who: { by: "everybody" }, ...(sent ? { sent } : {}) }],
  });
  const h = harness(d);
  h.start({ total: "1250", reason: "a & b/../c?x=#1", secret: "s3cret" });
  const release = compileRelease(d, {}, KINDS);
  return {
    says: sentOf(release, false),
    sent: afterSending(new Turn(release, h.state, officeFacts(T0), null), (id) => access[id] ?? "edit"),
  };
};
const SAYS = "Thank you, {Requester.name}: {Request.number} over {Total}. {Secret}";

it("says nothing where its owner says nothing, or only blanks", () => {
  for (const sent of [undefined, {}, { says: "  " }]) expect(came(sent)).toEqual({ says: null, sent: null });
});
it("reads with the values of the request, and leaves out what its reader may not see", () => {
  expect(came({ says: SAYS }).sent).toEqual({
    says: expect.stringMatching(/^Thank you, Una: TEST-0001 over 1.250\.00\. s3cret$/),
    leads: null,
  });
  expect(came({ says: SAYS }, { secret: "hide" }).sent?.says).toMatch(/\. …$/);
  // Also where it is made use of in passing.
  expect(came({ says: '{if Secret = "x" then "a" else "b"}' }, { secret: "hide" }).sent?.says).toBe("…");
});
it("hands values on to another form by the names of its fields, but none that are hidden or empty", () => {
  const leads = {
    to: "form",
    process: "store-key",
    values: [
      { name: "Purpose", value: '"For " + Request.number' },
      { name: "Secret", value: "Secret" },
      { name: "Day", value: 'date("2026-03-09")' },
      { name: "Amount", value: "Total + 0.5" },
      { name: "Sure", value: "Total > 5" },
      { name: "Kinds", value: '["a", "b"]' },
      { name: "Nothing", value: "null" },
      { name: "Unsaid", value: "" },
    ],
  } as const;
  const of = { leads: { ...leads, values: [...leads.values] } };
  expect(came(of).sent?.leads).toEqual({
    to: "form",
    process: "store-key",
    values: [
      ["Purpose", "For TEST-0001"],
      ["Secret", "s3cret"],
      ["Day", "2026-03-09"],
      ["Amount", "1250.5"],
      ["Sure", "yes"],
      ["Kinds", "a, b"],
    ],
  });
  expect(came(of, { secret: "hide" }).sent?.leads).toMatchObject({
    values: expect.not.arrayContaining([["Secret", "s3cret"]]),
  });
});
it("tells no value that is hidden at any depth, in whatever is read, however it is made use of", () => {
  const fields: Field[] = [
    {
      id: "p",
      name: "Page",
      kind: "page",
      fields: [
        { id: "a", name: "A", kind: "text" },
        { id: "s", name: "Part", kind: "section", fields: [{ id: "b", name: "B", kind: "text" }] },
        { id: "l", name: "Rows", kind: "lines", fields: [{ id: "c", name: "C", kind: "text" }] },
      ],
    },
    { id: "d", name: "D", kind: "text" },
  ];
  const mine: Record<string, string[]> = { a: ["p"], b: ["p", "s"], c: ["p", "l"], d: [] };
  const formulas = [
    "A",
    "B",
    "Rows.C",
    'count(Rows[C = "secret-c"])',
    "D",
    "Rows",
    "A + B",
    'if D = "" then "" else C2',
  ];
  const reads = ["a", "b", "c", "c", "d", "c", "ab", "d"];
  const says = formulas.map((f) => `{${f.replace("C2", "D")}}`).join("|");
  const definition = definitionOf([fin("e", "done")], {
    fields,
    starts: [{ id: "form", kind: "form", who: { by: "everybody" }, sent: { says } }],
  });
  const h = harness(definition);
  h.start({ a: "secret-a", b: "secret-b", d: "secret-d", l: [{ "#": "1", c: "secret-c" }] } as never);
  const release = compileRelease(definition, {}, KINDS);
  fc.assert(
    fc.property(fc.subarray(["p", "a", "s", "b", "l", "c", "d"]), (hides) => {
      const turn = new Turn(release, h.state, officeFacts(T0), null);
      const told = afterSending(turn, (id) => (hides.includes(id) ? "hide" : "edit"))!.says.split("|");
      const unseen = (id: string) => hides.includes(id) || mine[id]!.some((g) => hides.includes(g));
      told.forEach((t, i) => {
        const ids = reads[i]!.split("");
        if (ids.some(unseen)) expect(t).toBe("…");
        else if (formulas[i] !== "Rows") expect(t).not.toBe("…");
        for (const id of Object.keys(mine)) if (unseen(id)) expect(t).not.toContain(`secret-${id}`);
      });
    }),
    { endOnFailure: true },
  );
});
it("writes values into an address so that they stay values", () => {
  const leads = {
    to: "address",
    address: "https://quillhaven.example/thanks?for={Reason}&n={Secret}",
  } as const;
  const is = came({ leads }, { secret: "hide" }).sent?.leads;
  expect(is).toEqual({
    to: "address",
    href: "https://quillhaven.example/thanks?for=a%20%26%20b%2F..%2Fc%3Fx%3D%231&n=",
  });
  expect(new URL((is as { href: string }).href).searchParams.get("for")).toBe("a & b/../c?x=#1");
});

it.each([
  ["https://quillhaven.example/a", true],
  ["https://quillhaven.example", false],
  ["http://quillhaven.example:8080/?x=", true],
  ["https://quillhaven.example@", false],
  ["https://quillhaven.example@elsewhere.example/", false],
  ["https://", false],
  ["javascript:alert(1)/", false],
  ["//quillhaven.example/", false],
  ["", false],
])("an address whose first value stands behind “%s” says where it leads: %s", (before, yes) => {
  expect(saysItsPlace(before, true)).toBe(yes);
});
it("one without values says it by itself", () => {
  expect(saysItsPlace("https://quillhaven.example", false)).toBe(true);
  expect(saysItsPlace("quillhaven.example", false)).toBe(false);
});

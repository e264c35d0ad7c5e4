import type { Step } from "../route";
import { definitionOf, fin, harness } from "./testRequest";

const set = (field: string, value: string): Step =>
  ({ id: field, name: field, kind: "work out", set: [{ field, value }] }) as Step;

it("a request may be linked to from within before anybody else knows of it, and to no other that is not there", () => {
  const definition = definitionOf(
    [
      set("raised", "Request"),
      set("said", 'Raised by.number + " " + Raised by.status + " " + Raised by.process'),
      set("same", "Raised by = Request"),
      fin("end", "done"),
    ],
    {
      name: "Raising",
      fields: [
        { id: "raised", name: "Raised by", kind: "request" },
        { id: "said", name: "Said", kind: "text" },
        { id: "same", name: "Same", kind: "yes or no" },
      ],
    },
  );
  const run = harness(definition);
  expect(run.start({})).toMatchObject({
    ok: true,
    state: {
      status: "finished",
      data: { raised: "TEST-0001", said: "TEST-0001 under way Raising", same: true },
    },
  });
  expect(harness(definition).start({ raised: "TEST-0002" })).toMatchObject({
    ok: false,
    refusal: { code: "form", data: { problems: [{ code: "no-request", path: "raised" }] } },
  });
});

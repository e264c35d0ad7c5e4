import type { Field } from "../form";
import { decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const FIELDS: Field[] = [{ id: "total", name: "Total", kind: "money" }];

it("a step is read by its outcome alone, whatever its id is: before it has one, it says nothing", () => {
  for (const id of ["check", "constructor", "toString"]) {
    const check = { ...decideBy(id, { by: "person", person: "mo" }, YES_NO("x")), name: "Check" };
    const h = harness(
      definitionOf([check, fin("end", "done")], { fields: FIELDS, title: "<{Check.answer}>" }),
    );
    h.start({ total: "1" });
    expect([id, h.title()]).toEqual([id, "<>"]);
  }
});

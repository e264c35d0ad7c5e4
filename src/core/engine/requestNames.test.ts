import { personParty } from "../form";
import type { Field } from "../form";
import { KINDS } from "@/kinds";
import type { Step } from "../route";
import { compileRelease, NEW_REQUEST, Turn } from ".";
import { officeFacts } from "./testOffice";
import { decideBy, definitionOf, fin, harness, T0, YES_NO } from "./testRequest";

const FIELDS: Field[] = [{ id: "total", name: "Total", kind: "money" }];

it("a step is read by its outcome alone, whatever its id is: before it has one, it says nothing", () => {
  for (const id of ["check", "constructor", "toString"]) {
    const check = { ...decideBy(id, { by: "person", person: "eithne" }, YES_NO("x")), name: "Check" };
    const h = harness(
      definitionOf([check, fin("end", "done")], { fields: FIELDS, title: "<{Check.answer}>" }),
    );
    h.start({ total: "1" });
    expect([id, h.title()]).toEqual([id, "<>"]);
    h.answer("eithne", "approve");
    expect([id, h.title()]).toEqual([id, "<approve>"]);
  }
});

it("what a form reads beside its fields stays as it is, whatever steps come to", () => {
  const release = compileRelease(definitionOf([fin("end", "done")], { fields: FIELDS }), {}, KINDS);
  const facts = officeFacts(T0, {}, {}, new Set());
  const turn = new Turn(
    release,
    { ...NEW_REQUEST, requester: personParty("una"), number: "TEST-1" },
    facts,
    null,
  );
  const [before, form] = [turn.extraNames(), turn.evaluated()];
  turn.raise({ type: "records kept", step: "end", records: { register: "objects", ids: ["1"], many: true } });
  expect([turn.extraNames(), turn.evaluated()]).toEqual([before, form]);
  expect(turn.evaluated()).toBe(form);
  turn.raise({ type: "values set", step: "end", data: { total: "1" } });
  expect(turn.evaluated()).not.toBe(form);
});

it("a name is worked out anew once what it stands for has changed", () => {
  const find = { ...KINDS.steps.find.blank("f"), name: "Kept" } as Step;
  const release = compileRelease(definitionOf([find, fin("end", "done")], { fields: FIELDS }), {}, KINDS);
  const facts = officeFacts(T0, {}, {}, new Set());
  const turn = new Turn(
    release,
    { ...NEW_REQUEST, requester: personParty("una"), number: "TEST-1" },
    facts,
    null,
  );
  expect(turn.names(null).get("Kept")).toBeUndefined();
  for (const value of ["a", "b"]) {
    turn.raise({ type: "records kept", step: "f", records: { value } });
    expect(turn.names(null).get("Kept")).toBe(value);
  }
});

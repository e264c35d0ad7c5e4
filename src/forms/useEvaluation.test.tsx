import { KINDS } from "@/kinds";
import { render, screen } from "@testing-library/react";
import { compileForm, evaluateForm, factsFrom, formForReader, prepareForm, type Field } from "@/core/form";
import { Temporal } from "temporal-polyfill";
import { FormView } from ".";

const FIELDS: Field[] = [
  { id: "all", name: "All", kind: "number" },
  { id: "parts", name: "Parts", kind: "number" },
  { id: "each", name: "Each", kind: "number", worked: "All / Parts" },
];
const nothing = { people: {}, registers: {}, records: {} };

it("what the server could not work out of hidden fields is said to be so, and not shown as empty", () => {
  const { form } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
  const now = Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]");
  const access = (id: string) => (id === "parts" ? "hide" : "see");
  const r = evaluateForm(
    compileForm(form, KINDS.fields),
    { all: "1", parts: "0" },
    access,
    factsFrom(nothing, { now }, KINDS.fields),
  );
  const reader = formForReader(form, r, access, () => false);
  render(
    <FormView
      source={{
        ...reader,
        facts: nothing,
        now: now.epochMilliseconds,
        zone: "Europe/Dublin",
        requester: { kind: "person", id: "una" },
        number: "",
      }}
      data={reader.data}
      lookUp={async () => []}
    />,
  );
  expect(screen.getByText("It cannot be worked out.")).toBeTruthy();
  expect(screen.queryByText("Parts")).toBeNull();
});

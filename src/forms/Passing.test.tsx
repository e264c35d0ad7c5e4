import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { personParty, prepareForm, type Access, type Field, type FormData, type Passed } from "@/core/form";
import { KINDS } from "@/kinds";
import { FormView } from "./FormView";

const FIELDS: Field[] = [
  {
    id: "p1",
    name: "Who",
    kind: "page",
    fields: [
      { id: "a", name: "A", kind: "number" },
      {
        id: "b",
        name: "B",
        kind: "number",
        checks: [
          { must: "A + B < 10", say: "Together too many.", passable: true, about: ["a", "b"] },
          { must: "B < 100", say: "Never so many." },
        ],
      },
    ],
  },
  {
    id: "p2",
    name: "When",
    kind: "page",
    checks: [{ must: "C > A", say: "Too early for them.", passable: true }],
    fields: [{ id: "c", name: "C", kind: "number" }],
  },
];
const { form } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
const ACCESS: Record<string, Access> = Object.fromEntries(
  ["p1", "p2", "a", "b", "c"].map((id) => [id, "edit"]),
);

function show(shows: "guided" | "together", complain = false, editing = true) {
  const seen: { passed: Passed } = { passed: {} };
  function Host() {
    const [data, setData] = useState<FormData>({ a: "6", b: "7", c: "1" });
    const [passed, setPassed] = useState<Passed>({});
    seen.passed = passed;
    return (
      <FormView
        source={{
          form,
          access: ACCESS,
          facts: { people: {}, registers: {}, records: {} },
          now: 0,
          zone: "Europe/Dublin",
          requester: personParty("una"),
          number: "",
          failed: {},
          layout: { shows },
          passed: [{ key: "x#0", say: "It was late.", why: "The bus.", by: "Una Finch", at: 0 }],
        }}
        data={data}
        {...(editing ? { onChange: setData } : {})}
        complain={complain}
        passed={passed}
        onPass={(key, why) => setPassed((p) => ({ ...p, [key]: why }))}
        lookUp={async () => []}
      />
    );
  }
  render(<Host />);
  return { seen, user: userEvent.setup() };
}
const region = () => screen.queryByRole("region", { name: "Go on all the same" });

it("a reason lets a guided form go on, and only what may be passed is passed", async () => {
  const { seen, user } = show("guided");
  expect(region()).toBeNull();
  await user.click(screen.getByRole("button", { name: "Next: When" }));
  // It does not go on; both fields are marked, and there is where to say why.
  expect(screen.getAllByText(/^Together too many\./).length).toBe(3);
  const why = within(region()!).getByRole("textbox", { name: /Together too many/ });
  await user.type(why, "They share.");
  expect(seen.passed).toEqual({ "b#0": "They share." });
  expect(screen.getAllByText(/^Together too many\./)).toHaveLength(1);
  await user.clear(screen.getByLabelText("B"));
  await user.type(screen.getByLabelText("B"), "700");
  await user.click(screen.getByRole("button", { name: "Next: When" }));
  expect(screen.getByText("Never so many.")).toBeTruthy();
  await user.clear(screen.getByLabelText("B"));
  await user.type(screen.getByLabelText("B"), "8");
  await user.click(screen.getByRole("button", { name: "Next: When" }));
  // The check of the next page stands there, and at the end all that was passed.
  await user.click(screen.getByRole("button", { name: "Look it over" }));
  await user.type(within(region()!).getByRole("textbox", { name: /Too early/ }), "Later bus.");
  await user.click(screen.getByRole("button", { name: "Look it over" }));
  expect(within(region()!).getAllByRole("textbox")).toHaveLength(2);
  expect(screen.queryByText(/need another look/)).toBeNull();
});

it("is asked for once it was told of, and of nobody who only reads", () => {
  show("together", true);
  expect(within(region()!).getAllByRole("textbox")).toHaveLength(2);
  expect(screen.getByRole("list", { name: "Gone on past" }).textContent).toContain(
    "It was late. Una Finch went on all the same: The bus.",
  );
});
it("is told of to whoever only reads it, and asks nothing of them", () => {
  show("together", false, false);
  expect(region()).toBeNull();
  expect(screen.getByText("The bus.")).toBeTruthy();
});

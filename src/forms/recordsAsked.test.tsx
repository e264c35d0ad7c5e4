import { KINDS } from "@/kinds";
import { act, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import {
  prepareForm,
  type Field,
  type FormAnswer,
  type FormData,
  type RegisterShape,
  type StoredRow,
} from "@/core/form";
import { FormView } from "./FormView";
import type { FormAsk } from "./inputContext";

const prices: RegisterShape = {
  format: "cobble-step/register@1",
  key: "prices",
  name: "Prices",
  one: "price",
  purpose: "",
  title: ["item"],
  columns: [
    { id: "item", name: "Item name", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
  ],
};
const FIELDS: Field[] = [
  { id: "most", name: "Most", kind: "money" },
  {
    id: "lines",
    name: "Things",
    kind: "lines",
    fields: [
      {
        id: "what",
        name: "What",
        kind: "text",
        needed: "true",
        checks: [
          { must: "Item name = What", say: "We have one.", records: { register: "prices", there: "none" } },
        ],
      },
      { id: "thing", name: "Thing", kind: "look-up", register: "prices", offered: "Price < Most" },
    ],
  },
];
const NOTHING: FormAnswer = { offered: [], none: null, records: {} };

function show(data: FormData, ask: FormAsk) {
  const source = {
    form: prepareForm(FIELDS, { registers: { prices }, kinds: KINDS }).form,
    access: { most: "edit", lines: "edit", what: "edit", thing: "edit" } as const,
    facts: { people: {}, registers: { prices }, records: {} },
    now: Date.UTC(2026, 2, 3, 10),
    zone: "Europe/Dublin",
    requester: { kind: "person" as const, id: "una" },
    number: "T-1",
    failed: {},
  };
  function Held() {
    const [d, set] = useState(data);
    return <FormView source={source} data={d} onChange={set} lookUp={async () => []} ask={ask} />;
  }
  render(<Held />);
}
const pause = (ms: number) => act(async () => new Promise((r) => setTimeout(r, ms)));

it("asks the registers once somebody has stopped typing, and tells in the line that was left", async () => {
  const asked: FormData[] = [];
  show({ most: "5", lines: [{ "#": "1", what: null, thing: null }] }, async (data, q) => {
    if (q.ask !== "records") return NOTHING;
    asked.push(data);
    const typed = (data["lines"] as StoredRow[])[0]!["what"];
    return { ...NOTHING, records: { [`lines/1/what#0 ${JSON.stringify(typed)}`]: { there: true } } };
  });
  const what = screen.getByLabelText("What, line 1");
  await pause(500);
  expect(asked).toHaveLength(1);
  for (const value of ["Glov", "Glove", "Gloves"]) fireEvent.change(what, { target: { value } });
  await pause(500);
  // Not once for each letter, and nothing is said while it is still typed.
  expect(asked).toHaveLength(2);
  expect(asked[1]).toMatchObject({ lines: [{ what: "Gloves" }] });
  expect(screen.queryByText(/We have one/)).toBeNull();
  fireEvent.blur(what);
  expect(screen.getByText(/We have one/)).toBeTruthy();
  fireEvent.change(what, { target: { value: "Gloves of silk" } });
  expect(screen.queryByText(/We have one/)).toBeNull();
});

it("what is still empty in a line is said when it is sent, and not before", async () => {
  show({ lines: [{ "#": "1", what: null, thing: null }] }, async () => NOTHING);
  fireEvent.blur(screen.getByLabelText("What, line 1"));
  expect(screen.queryByText(/is needed/)).toBeNull();
});

it("lists what the condition lets be picked for the row, and why where nothing can be told", async () => {
  const asked: unknown[] = [];
  let answer: FormAnswer | null = {
    ...NOTHING,
    offered: [{ id: "1", title: "Gloves", record: { id: "1", item: "Gloves", price: "3.15" } }],
  };
  show({ most: "5", lines: [{ "#": "7", what: "x", thing: null }] }, async (_, q) => {
    if (q.ask === "offered") asked.push(q);
    if (!answer) throw new Error("no server");
    return answer;
  });
  const picker = screen.getByRole("combobox", { name: "Thing, line 1" });
  await userEvent.click(picker);
  await userEvent.click(await screen.findByRole("option", { name: "Gloves" }));
  expect(asked).toEqual([{ ask: "offered", field: "thing", row: "7", search: "" }]);
  expect(picker.textContent).toBe("Gloves");
  // Enter picks the first of what is listed by then, and not of what was listed before.
  answer = {
    ...NOTHING,
    offered: [{ id: "2", title: "Tissue", record: { id: "2", item: "Tissue", price: "1" } }],
  };
  await userEvent.click(picker);
  await userEvent.type(screen.getByPlaceholderText("Type a part of the name"), "t");
  await screen.findByRole("option", { name: "Tissue" });
  await pause(200);
  await userEvent.keyboard("{Enter}");
  expect(picker.textContent).toBe("Tissue");
  answer = { ...NOTHING, none: "It hangs on something." };
  await userEvent.click(picker);
  expect(await screen.findByText("It hangs on something.")).toBeTruthy();
  await userEvent.keyboard("{Escape}");
  answer = null;
  await userEvent.click(picker);
  expect(await screen.findByText(/could not be looked up/)).toBeTruthy();
});

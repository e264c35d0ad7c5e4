import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import type { Field, StoredRecord } from "@/core/form";
import type { InputContext } from "./inputContext";
import { RecordsInput } from "./RecordsInput";

const CUPS = [
  { id: "1", title: "Kylix" },
  { id: "2", title: "Beaker" },
  { id: "3", title: "Goblet" },
].map((o) => ({ ...o, record: { id: o.id, name: o.title } as StoredRecord }));
const field: Field = { id: "c", name: "Cups", kind: "several records", register: "cups", max: "2" };

function show(ids: string[] = [], more: Partial<InputContext> = {}) {
  const learned: string[] = [];
  let now: readonly string[] = ids;
  function Held() {
    const [value, set] = useState<readonly string[]>(ids);
    now = value;
    const context = {
      facts: { people: {}, registers: {}, records: {} },
      offers: {},
      offered: null,
      lookUp: (_: string, s: string) =>
        Promise.resolve(CUPS.filter((c) => c.title.toLowerCase().includes(s.toLowerCase()))),
      learn: (_: string, r: StoredRecord) => learned.push(r.id),
      ...more,
    } as unknown as InputContext;
    return (
      <RecordsInput
        field={field}
        id="c"
        label="Cups"
        ids={value}
        title={(x) => CUPS.find((c) => c.id === x)?.title ?? "gone"}
        context={context}
        invalid={false}
        compact={false}
        onChange={set}
      />
    );
  }
  render(<Held />);
  return { learned, now: () => now };
}
const chosen = () => screen.queryAllByRole("listitem").map((li) => li.querySelector("span")!.textContent);

it("is picked by keyboard one after the other, what is chosen is offered no more, and there is only so much room", async () => {
  const user = userEvent.setup();
  const { learned, now } = show();
  screen.getByRole("combobox", { name: "Cups" }).focus();
  await user.keyboard("bea");
  await screen.findByRole("option", { name: "Beaker" });
  await user.keyboard("{Enter}");
  expect(now()).toEqual(["2"]);
  expect(learned).toEqual(["2"]);
  await user.click(screen.getByRole("combobox", { name: "Cups" }));
  await screen.findByRole("option", { name: "Kylix" });
  expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(["Kylix", "Goblet"]);
  await user.keyboard("{Enter}");
  expect(chosen()).toEqual(["Beaker", "Kylix"]);
  await user.click(screen.getByRole("combobox", { name: "Cups" }));
  await screen.findByText("There is room for 2; take one out first.");
  expect(screen.getByRole("button", { name: "Add several…" })).toHaveProperty("disabled", true);
});

it("what is taken out leaves the others in their order, and the focus where one more is chosen", async () => {
  const { now } = show(["3", "9", "1"]);
  await userEvent.click(screen.getByRole("button", { name: "Take out gone" }));
  expect(now()).toEqual(["3", "1"]);
  await waitFor(() => expect(document.activeElement?.id).toBe("c"));
});

it("many are ticked at once, beside those that are there", async () => {
  const user = userEvent.setup();
  const { now, learned } = show(["3"]);
  await user.click(screen.getByRole("button", { name: "Add several…" }));
  await user.click(await screen.findByRole("checkbox", { name: "Kylix" }));
  expect(screen.getByRole("checkbox", { name: "Beaker" })).toHaveProperty("disabled", true);
  await user.click(screen.getByRole("button", { name: "Add 1 record" }));
  expect([now(), learned]).toEqual([["3", "1"], ["1"]]);
});

it("of what a step offers only that is listed, and none is ticked beside it", async () => {
  show(["1"], { offers: { c: ["1", "3"] } });
  expect(screen.queryByRole("button", { name: "Add several…" })).toBeNull();
  await userEvent.click(screen.getByRole("combobox", { name: "Cups" }));
  await screen.findByRole("option", { name: "Goblet" });
  expect(screen.getAllByRole("option")).toHaveLength(1);
});

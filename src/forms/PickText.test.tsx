import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import type { Field } from "@/core/form";
import type { InputContext } from "./inputContext";
import { PickText, PickTexts } from "./PickText";

const TONES = ["cold", "neutral", "warm"];
const field: Field = { id: "t", name: "Tone", kind: "choice", among: { register: "paints", column: "tone" } };

function show(
  Input: typeof PickText,
  first: string | null,
  more: Partial<InputContext> = {},
  of: Field = field,
) {
  const asked: unknown[] = [];
  let now: string | null = first;
  function Held() {
    const [value, set] = useState<string | null>(first);
    now = value;
    const context = {
      facts: { people: {}, registers: {}, records: {} },
      offers: {},
      offered: (...q: unknown[]) => {
        asked.push(q);
        const found = TONES.filter((t) => t.includes(String(q[2]).toLowerCase()));
        return Promise.resolve({ offered: found.map((t) => ({ id: t, title: t })), none: null, records: {} });
      },
      ...more,
    } as unknown as InputContext;
    return (
      <Input
        field={of}
        id="rows/a/t"
        label="Tone"
        value={value}
        context={context}
        invalid={false}
        onChange={(v) => set(v)}
      />
    );
  }
  render(<Held />);
  return { asked, now: () => now };
}
const options = () => screen.queryAllByRole("option").map((o) => o.textContent);

it("is found by typing a part of it, asked for its own row, and can be cleared", async () => {
  const user = userEvent.setup();
  const { asked, now } = show(PickText, null);
  screen.getByRole("combobox", { name: "Tone" }).focus();
  await user.keyboard("Wa");
  await screen.findByRole("option", { name: "warm" });
  await waitFor(() => expect(options()).toEqual(["warm"]));
  await user.keyboard("{Enter}");
  expect(now()).toBe("warm");
  expect(asked).toContainEqual(["t", "a", "Wa"]);
  await user.click(screen.getByRole("button", { name: "Clear Tone" }));
  expect(now()).toBeNull();
});
it("what stands there no more is still read", () => {
  show(PickText, "gaudy");
  expect(screen.getByRole("combobox", { name: "Tone" }).textContent).toBe("gaudy");
});
it("of several each once, taken out one by one", async () => {
  const user = userEvent.setup();
  const { now } = show(PickTexts, "warm");
  await user.click(screen.getByRole("combobox", { name: "Tone" }));
  await screen.findByRole("option", { name: "cold" });
  expect(options()).toEqual(["cold", "neutral"]);
  await user.click(screen.getByRole("option", { name: "cold" }));
  expect(now()).toBe("warm\ncold");
  await user.click(screen.getByRole("button", { name: "Take out warm" }));
  expect(now()).toBe("cold");
});
it("of many that are written each is found by what people read, and several stand in their order", async () => {
  const user = userEvent.setup();
  const options = Array.from({ length: 60 }, (_, i) => `tone ${i}`);
  const written: Field = {
    id: "t",
    name: "Tone",
    kind: "several choices",
    options,
    optionLabels: { "tone 7": "Sea green" },
  };
  const { now } = show(PickTexts, "tone 9\ngaudy", { offered: null }, written);
  expect(screen.getByText("gaudy")).toBeTruthy();
  await user.click(screen.getByRole("combobox", { name: "Tone" }));
  await user.keyboard("sea g");
  await user.click(await screen.findByRole("option", { name: "Sea green" }));
  expect(now()).toBe("tone 7\ntone 9\ngaudy");
});
it("a step's own offer is listed without asking; a column they may not see says so", async () => {
  const user = userEvent.setup();
  const { asked } = show(PickText, null, { offers: { t: ["only this"] } });
  await user.click(screen.getByRole("combobox", { name: "Tone" }));
  await screen.findByRole("option", { name: "only this" });
  expect(asked).toEqual([]);
});
it("says that they may not see the column, and what cannot be asked", async () => {
  const user = userEvent.setup();
  const paints = { key: "paints", name: "Paints", columns: [{ id: "other", name: "Other", kind: "text" }] };
  show(PickText, null, {
    facts: { people: {}, registers: { paints }, records: {} } as never,
    offered: () => Promise.resolve({ offered: [], none: null, records: {} }),
  });
  await user.click(screen.getByRole("combobox", { name: "Tone" }));
  await screen.findByText("You may not see that column of Paints, so none can be chosen here.");
});
it("where no form is filled in nothing is offered, and that is said", async () => {
  const user = userEvent.setup();
  show(PickText, null, { offered: null });
  await user.click(screen.getByRole("combobox", { name: "Tone" }));
  await screen.findByText("What can be chosen is known where the form is filled in.");
});

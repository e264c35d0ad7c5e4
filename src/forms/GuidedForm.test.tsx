import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import {
  evaluateForm,
  compileForm,
  factsFrom,
  personParty,
  prepareForm,
  type Access,
  type Field,
  type FormData,
} from "@/core/form";
import { Temporal } from "temporal-polyfill";
import { KINDS } from "@/kinds";
import { FormView, type FormViewProps } from "./FormView";

const FIELDS: Field[] = [
  {
    id: "p1",
    name: "Who",
    kind: "page",
    text: "Dear {Name}, **welcome**.",
    fields: [
      { id: "name", name: "Name", kind: "text", needed: "true" },
      { id: "group", name: "Group", label: "Do you come as a group?", kind: "yes or no" },
    ],
  },
  {
    id: "p2",
    name: "Size",
    label: "How many of you?",
    kind: "page",
    shown: "Group = true",
    fields: [{ id: "size", name: "Size", kind: "whole number", needed: "true", max: "40" }],
  },
  {
    id: "p3",
    name: "When",
    kind: "page",
    fields: [
      { id: "day", name: "Day", kind: "text" },
      { id: "total", name: "Total", kind: "number", worked: "Size * 2" },
    ],
  },
];
const ACCESS: Record<string, Access> = Object.fromEntries(
  ["p1", "p2", "p3", "name", "group", "size", "day"].map((id) => [id, "edit"]),
);
const { form } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });

function show(first: FormData, more: Partial<FormViewProps> & { before?: FormData } = {}) {
  const seen = { data: first, ended: false };
  const { before, ...rest } = more;
  function Host() {
    const [data, setData] = useState(first);
    return (
      <FormView
        source={{
          form,
          access: { ...ACCESS, total: "see" },
          facts: { people: {}, registers: {}, records: {} },
          now: 0,
          zone: "Europe/Dublin",
          requester: personParty("una"),
          number: "",
          failed: {},
          layout: { shows: "guided", heading: "Ask us", help: "It takes {five} minutes." },
          ...(before ? { before } : {}),
        }}
        data={data}
        onChange={(d) => setData((seen.data = d))}
        onEnd={(ended) => (seen.ended = ended)}
        next={["Then Registry answers."]}
        lookUp={async () => []}
        {...rest}
      />
    );
  }
  render(<Host />);
  return { seen, user: userEvent.setup() };
}
const valueOf = (el: HTMLElement) => (el as HTMLInputElement).value;
const heading = () => screen.getAllByRole("heading", { level: 2 }).at(-1)!.textContent;

it("goes page by page as their conditions hold, forth and back, and loses nothing", async () => {
  const { seen, user } = show({});
  expect(screen.getByText("It takes {five} minutes.")).toBeTruthy();
  expect(heading()).toBe("Who1 of 2");
  await user.type(screen.getByLabelText(/^Name/), "Una");
  // What the page says reads what is typed, and is no markup of another kind.
  expect(screen.getByText("Una")).toBeTruthy();
  await user.click(screen.getByRole("radio", { name: "Yes" }));
  expect(heading()).toBe("Who1 of 3");
  await user.click(screen.getByRole("button", { name: "Next: How many of you?" }));
  expect(heading()).toBe("How many of you?2 of 3");
  expect(document.activeElement?.textContent).toContain("How many of you?");
  await user.type(screen.getByLabelText(/^Size/), "30{Enter}");
  expect(heading()).toBe("When3 of 3, the last before the end");
  await user.type(screen.getByLabelText("Day"), "soon");
  await user.click(screen.getByRole("button", { name: "Back" }));
  expect(valueOf(screen.getByLabelText(/^Size/))).toBe("30");
  await user.click(screen.getByRole("button", { name: "Back" }));
  await user.click(screen.getByRole("radio", { name: "No" }));
  await user.click(screen.getByRole("button", { name: "Next: When" }));
  expect(valueOf(screen.getByLabelText("Day"))).toBe("soon");
  expect(seen.ended).toBe(false);
  await user.click(screen.getByRole("button", { name: "Look it over" }));
  expect(seen.ended).toBe(true);
  expect(heading()).toContain("Look it over");
  expect(screen.queryByRole("region", { name: "How many of you?" })).toBeNull();
  expect(within(screen.getByRole("region", { name: "Who" })).getByText("Una")).toBeTruthy();
  expect(screen.getByText("Then Registry answers.")).toBeTruthy();
  // What was typed on a page that is not shown now is still there.
  expect(seen.data).toEqual({ name: "Una", group: false, size: "30", day: "soon" });
  await user.click(screen.getByRole("button", { name: "Change When" }));
  expect(valueOf(screen.getByLabelText("Day"))).toBe("soon");
  expect(seen.ended).toBe(false);
});

it("does not go on over what is wrong on a page, and says and marks it there", async () => {
  const { user } = show({ group: true });
  await user.click(screen.getByRole("button", { name: "Next: How many of you?" }));
  expect(heading()).toContain("Who");
  expect(screen.getByText("Name is needed.")).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toBe("One answer here needs another look.");
  await user.type(screen.getByLabelText(/^Name/), "Una{Enter}");
  await user.type(screen.getByLabelText(/^Size/), "41.5{Enter}");
  expect(heading()).toContain("How many of you?");
  expect(screen.getByText(/Size is a whole number.*at most 40/)).toBeTruthy();
});

it("at its end says what is wrong anywhere, with the way there, and what was changed of what is kept", async () => {
  const before = { name: "Una", group: true, size: "12", day: "soon", total: "24" };
  const { user } = show(before, { before });
  for (const name of ["Next: How many of you?", "Next: When", "Look it over"])
    await user.click(screen.getByRole("button", { name }));
  expect(screen.queryByText(/becomes/)).toBeNull();
  await user.click(screen.getByRole("button", { name: "Change How many of you?" }));
  await user.clear(screen.getByLabelText(/^Size/));
  await user.type(screen.getByLabelText(/^Size/), "14");
  await user.click(screen.getByRole("button", { name: "Next: When" }));
  await user.click(screen.getByRole("button", { name: "Look it over" }));
  const changed = screen.getAllByText(/becomes/).map((x) => x.closest("li")!.textContent);
  expect(changed).toEqual(["Size: 12 →  becomes 14", "Total: 24 →  becomes 28"]);
});

it("takes whoever is told by the server to that page, and lets them go on from there to be asked again", async () => {
  const problem = { code: "check" as const, path: "day", data: { field: "Day", say: "That day is taken." } };
  const { seen, user } = show({ name: "Una" }, { complain: true, extraProblems: [problem] });
  expect(heading()).toContain("When");
  expect(screen.getByText("That day is taken.")).toBeTruthy();
  await user.type(screen.getByLabelText("Day"), "another");
  await user.click(screen.getByRole("button", { name: "Look it over" }));
  expect(seen.ended).toBe(true);
});

it("where pages are walked in any order the data are those of the whole form at once", async () => {
  const { seen, user } = show({});
  const walk = ["Una", "yes", "on", "7", "on", "x", "back", "back", "no", "yes", "on", "8", "on", "on"];
  for (const w of walk) {
    if (w === "on") await user.click(screen.getByRole("button", { name: /^(Next:|Look)/ }));
    else if (w === "back") await user.click(screen.getByRole("button", { name: "Back" }));
    else if (w === "yes" || w === "no")
      await user.click(screen.getByRole("radio", { name: w === "yes" ? "Yes" : "No" }));
    else await user.type(screen.getByRole("textbox"), w);
  }
  const facts = factsFrom(
    { people: {}, registers: {}, records: {} },
    { now: Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO("Europe/Dublin") },
    KINDS.fields,
  );
  const whole = (data: FormData) =>
    evaluateForm(compileForm(form, KINDS.fields), data, (id) => ACCESS[id] ?? "see", facts).data;
  expect(seen.data).toEqual({ name: "Una", group: true, size: "78", day: "x" });
  expect(whole(seen.data)).toMatchObject({ size: "78", total: "156" });
});

import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ProcessDefinition, Step } from "@/core/route";
import { definition, Designing } from "../../tests/components/draft";
import type { Draft } from "./draft/draft";
import { useDraft } from "./draft/DraftProvider";
import { FormSheet, RouteSheet } from ".";

// Its handles listen to the whole page and go by size, which jsdom has not either.
jest.mock("react-resizable-panels", () => {
  const plain = ({ children }: { children?: unknown }) => children ?? null;
  return { Group: plain, Panel: plain, Separator: () => null };
});
// Drawn by size; the browser tests look at it.
jest.mock("./map/PathMap", () => ({ PathMap: () => null }));

let draft: Draft;
const See = () => {
  draft = useDraft();
  return null;
};
const show = (sheet: React.ReactNode, of: Partial<ProcessDefinition> = {}) =>
  render(
    <Designing of={{ ...definition, ...of }}>
      <See />
      {sheet}
    </Designing>,
  );
const fields = () =>
  draft.definition.fields
    .map((f) => (f.fields ? `${f.name}(${f.fields.map((x) => x.name).join(" ")})` : f.name))
    .join(" ");
/** What is copied, with a text on it. */
function clip(text = "") {
  const held: Record<string, string> = text ? { text } : {};
  return {
    held,
    getData: (type: string) => held[type] ?? "",
    setData: (type: string, data: string) => void (held[type] = data),
    get types() {
      return Object.keys(held);
    },
  };
}
const press = (key: string, more: object = {}) =>
  act(() => void fireEvent.keyDown(document.activeElement!, { key, ...more }));

describe("the form sheet", () => {
  const three: ProcessDefinition["fields"] = [
    { id: "who", name: "Who", kind: "section", fields: [{ id: "name", name: "Name", kind: "text" }] },
    { id: "total", name: "Total", kind: "number", min: "1", max: "9" },
    { id: "size", name: "Size", kind: "choice", options: ["small", "large"] },
  ];
  const name = (n: string) => screen.getByLabelText<HTMLInputElement>(`Name of ${n}`);

  it("is worked by keyboard: a new row, names, moving in and out, removing", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, { fields: three });
    act(() => name("Total").focus());
    press("Enter");
    expect(fields()).toBe("Who(Name) Total Field 1 Size");
    expect(document.activeElement).toBe(name("Field 1"));
    await u.keyboard("{Control>}a{/Control}Reason{Tab}");
    expect(fields()).toBe("Who(Name) Total Reason Size");
    act(() => name("Reason").focus());
    press("ArrowUp", { altKey: true });
    expect(fields()).toBe("Who(Name) Reason Total Size");
    press("ArrowRight", { altKey: true });
    expect(fields()).toBe("Who(Name Reason) Total Size");
    press("ArrowLeft", { altKey: true });
    press("ArrowDown", { altKey: true });
    expect(fields()).toBe("Who(Name) Total Reason Size");
    press("ArrowDown");
    expect(document.activeElement).toBe(name("Size"));
    press("Backspace", { ctrlKey: true });
    expect(fields()).toBe("Who(Name) Total Reason");
    expect(document.activeElement).toBe(name("Reason"));
    for (let i = 0; i < 7; i++) act(() => draft.undo());
    expect(draft.definition.fields).toEqual(three);
  });

  it("keeps a worked-out value as a copy, says so on the row, and lets it go again", async () => {
    const u = userEvent.setup();
    const double: ProcessDefinition["fields"][number] = {
      id: "double",
      name: "Double",
      kind: "number",
      worked: "Total * 2",
    };
    show(<FormSheet />, { fields: [...three, double] });
    const row = document.getElementById("field-double")!;
    await u.click(within(row).getByRole("button", { name: /More|Details/ }));
    const keeps = screen.getByRole("combobox", { name: "How long Double keeps its value" });
    await u.selectOptions(keeps, "copied");
    expect(draft.definition.fields[3]).toMatchObject({ worked: "Total * 2", copied: true });
    expect(within(row).getByText("a copy of")).toBeTruthy();
    await u.selectOptions(keeps, "fixed");
    expect(draft.definition.fields[3]).toMatchObject({ fixed: true });
    expect(draft.definition.fields[3]).not.toHaveProperty("copied");
    expect(within(row).getByText("fixed:")).toBeTruthy();
    await u.selectOptions(keeps, "live");
    expect(draft.definition.fields[3]).toEqual(double);
  });

  it("refuses a name that formulas cannot read, and leaves it as it was typed", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, { fields: three });
    await u.clear(name("Total"));
    await u.type(name("Total"), "net-price{Tab}");
    expect(name("Total").value).toBe("net-price");
    expect(draft.said).toContain("letters, digits and spaces");
  });

  it("makes fields of pasted rows, below the one they are pasted on", () => {
    show(<FormSheet />, { fields: three });
    fireEvent.paste(name("Total"), {
      clipboardData: clip("Start date\tdate\tx\nHow many\tnumber\nAny remarks"),
    });
    expect(fields()).toBe("Who(Name) Total Start date How many Any remarks Size");
    expect(draft.definition.fields.slice(2, 5).map((f) => [f.kind, f.needed])).toEqual([
      ["date", "true"],
      ["number", undefined],
      ["long text", undefined],
    ]);
    act(() => draft.undo());
    expect(draft.definition.fields).toEqual(three);
  });

  it("takes along what another kind has use for, and only that", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, { fields: three });
    await u.selectOptions(screen.getByLabelText("Kind of Total"), "money");
    expect(draft.definition.fields[1]).toEqual({ ...three[1], kind: "money" });
    await u.selectOptions(screen.getByLabelText("Kind of Total"), "file");
    await u.click(screen.getByRole("button", { name: "Change the kind" }));
    expect(draft.definition.fields[1]).toEqual({ id: "total", name: "Total", kind: "file" });
    await u.selectOptions(screen.getByLabelText("Kind of Who"), "lines");
    expect(fields()).toBe("Who(Name) Total Size");
    await u.selectOptions(screen.getByLabelText("Kind of Who"), "text");
    expect(fields()).toBe("Who Name Total Size");
  });

  it("asks before values of samples read otherwise, and makes all of it one step to take back", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, {
      fields: [{ id: "what", name: "What", kind: "text" }],
      samples: [
        { id: "one", name: "First", requester: "una", data: { what: "seven" } },
        { id: "two", name: "Second", requester: "una", data: { what: "7" } },
      ],
    });
    const kinds = () => draft.definition.fields.map((f) => f.kind).join();
    await u.selectOptions(screen.getByLabelText("Kind of What"), "number");
    expect(screen.getByRole("dialog", { name: "What becomes: number" }).textContent).toContain(
      "One value in samples cannot be kept",
    );
    expect(screen.getAllByRole("row").slice(-1)[0]!.textContent).toBe("Firstsevenempty");
    await u.click(screen.getByRole("button", { name: "Leave it as it is" }));
    expect(kinds()).toBe("text");
    expect(screen.getByLabelText<HTMLSelectElement>("Kind of What").value).toBe("text");
    await u.selectOptions(screen.getByLabelText("Kind of What"), "number");
    await u.click(screen.getByRole("button", { name: "Change the kind" }));
    expect(kinds()).toBe("number");
    expect(draft.definition.samples.map((s) => s.data["what"])).toEqual([null, "7"]);
    act(() => draft.undo());
    expect(kinds()).toBe("text");
    expect(draft.definition.samples.map((s) => s.data["what"])).toEqual(["seven", "7"]);
    // What reads as before is not asked about.
    await u.selectOptions(screen.getByLabelText("Kind of What"), "long text");
    expect(kinds()).toBe("long text");
  });

  it("shows each mistake on its row with its mend", async () => {
    show(<FormSheet />, {
      fields: [...three, { id: "sum", name: "Sum", kind: "number", worked: "Totl * 2" }],
    });
    await userEvent.click(screen.getByRole("button", { name: "Mend: Total" }));
    expect(draft.definition.fields[3]!.worked).toBe("Total * 2");
    expect(screen.queryByRole("button", { name: /^Mend/ })).toBeNull();
  });

  it("says who sees what, from its group where nothing is said", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, {
      fields: three,
      route: [
        {
          id: "check",
          name: "Check",
          kind: "decide",
          who: { rule: { by: "requester" }, how: "one" },
          answers: [{ id: "y", label: "Yes", tone: "agree", steps: [] }],
        },
        ...definition.route,
      ],
    });
    await u.click(screen.getByRole("button", { name: "Who sees what" }));
    await u.click(
      screen.getByRole("button", { name: "Who at Check: see, as its group or the rule. Change" }),
    );
    expect(draft.definition.access).toEqual({ check: { who: "hide" } });
    expect(
      screen.getByRole("button", { name: "Name at Check: hide, as its group or the rule. Change" }),
    ).toBeTruthy();
    fireEvent.keyDown(screen.getByRole("button", { name: "Who at Check: hide. Change" }), { key: "Delete" });
    expect(draft.definition.access["check"]?.["who"]).toBeUndefined();
  });

  it("marks rows, copies them to a spreadsheet and to another form, where formulas go along, and cuts them", async () => {
    const four: ProcessDefinition["fields"] = [
      ...three,
      { id: "double", name: "Double", kind: "number", worked: "Total * 2" },
    ];
    const u = userEvent.setup();
    show(<FormSheet />, { fields: four });
    act(() => name("Total").focus());
    press("ArrowDown", { shiftKey: true });
    press("ArrowDown", { shiftKey: true });
    expect(screen.getByText("3 rows marked.")).toBeTruthy();
    expect(document.activeElement).toBe(name("Double"));
    const held = clip();
    fireEvent.copy(name("Double"), { clipboardData: held });
    expect(held.held["text/plain"]).toBe("Total\tnumber\nSize\tchoice\nDouble\tnumber");
    press("Escape");
    expect(screen.queryByText("3 rows marked.")).toBeNull();
    fireEvent.paste(name("Name"), { clipboardData: held });
    await waitFor(() => expect(fields()).toBe("Who(Name Total 2 Size 2 Double 2) Total Size Double"));
    expect(draft.definition.fields[0]!.fields!.at(-1)).toMatchObject({ worked: "Total 2 * 2" });
    expect(draft.told).toContain("3 fields were added. Called otherwise than pasted: “Total” is “Total 2”");
    act(() => draft.undo());
    expect(draft.definition.fields).toEqual(four);
    // What of a name is marked is copied as text, where no rows are.
    const part = clip();
    name("Size").setSelectionRange(0, 2);
    fireEvent.copy(name("Size"), { clipboardData: part });
    expect(part.types).toEqual([]);
    act(() => name("Size").focus());
    press("ArrowUp", { shiftKey: true });
    fireEvent.cut(name("Total"), { clipboardData: part });
    expect(fields()).toBe("Who(Name) Double");
    expect(part.held["text/plain"]).toBe("Total\tnumber\nSize\tchoice");
    act(() => draft.undo());
    expect(draft.definition.fields).toEqual(four);
    await u.click(document.getElementById("field-size")!);
    await u.keyboard("{Shift>}");
    await u.click(document.getElementById("field-who")!);
    await u.keyboard("{/Shift}");
    expect(screen.getByText("4 rows marked.")).toBeTruthy();
  });

  it("takes no copied fields that are none", async () => {
    show(<FormSheet />, { fields: three });
    for (const bad of ['[{"id":"x","name":"X","kind":"cannon"}]', "[]", "{", '"x"']) {
      const held = clip("Rows\tof text");
      held.setData("application/x-cobble-step-fields", bad);
      act(() => draft.hush());
      fireEvent.paste(name("Total"), { clipboardData: held });
      await waitFor(() => expect(draft.told).toContain("cannot be read as fields"));
    }
    expect(draft.definition.fields).toEqual(three);
  });

  it("looks at some rows only, tells how many, and shows all again for what is new", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, { fields: three });
    const shown = () => screen.getAllByLabelText<HTMLInputElement>(/^Name of /).map((x) => x.value);
    await u.selectOptions(screen.getByLabelText("Which fields"), "with rules and checks");
    expect(shown()).toEqual(["Total"]);
    expect(screen.getByText("1 of 4 fields.")).toBeTruthy();
    await u.click(screen.getByRole("button", { name: "Show all fields" }));
    // What was marked among other rows is marked no more.
    act(() => name("Total").focus());
    press("ArrowDown", { shiftKey: true });
    await u.selectOptions(screen.getByLabelText("Which fields"), "needed ones");
    expect(screen.queryByText("2 rows marked.")).toBeNull();
    await u.selectOptions(screen.getByLabelText("Which fields"), "All fields");
    await u.click(screen.getByRole("button", { name: "Fold all" }));
    expect(shown()).toEqual(["Who", "Total", "Size"]);
    // What is looked for is found in what is folded, too.
    await u.type(screen.getByLabelText("Look for fields by name"), "nam");
    expect(shown()).toEqual(["Who", "Name"]);
    await u.type(screen.getByLabelText("Look for fields by name"), "x");
    expect(screen.getByText(/No field is so/)).toBeTruthy();
    await u.keyboard("{Backspace}");
    act(() => name("Name").focus());
    press("Enter");
    expect(shown()).toContain("Field 1");
    expect(shown()).toContain("Size");
    expect(screen.getByRole("button", { name: "Fold all" })).toBeTruthy();
  });

  it("says who sees what by keys, in many cells at once, and why a cell is less than was said", async () => {
    const u = userEvent.setup();
    const check = (id: string): Step =>
      ({
        id,
        name: id,
        kind: "complete",
        who: { rule: { by: "requester" }, how: "one" },
        button: "Done",
      }) as Step;
    show(<FormSheet />, { fields: three, route: [check("one"), check("two"), ...definition.route] });
    await u.click(screen.getByRole("button", { name: "Who sees what" }));
    const cell = (field: string, step: string) => document.getElementById(`access-${step}-${field}`)!;
    // One of all cells is in the way of Tab.
    const inTabs = () => [...document.querySelectorAll("[id^=access-][tabindex='0']")].map((x) => x.id);
    expect(inTabs()).toEqual(["access-start-who"]);
    act(() => cell("name", "one").focus());
    expect(inTabs()).toEqual(["access-one-name"]);
    press("h");
    expect(draft.definition.access).toEqual({ one: { name: "hide" } });
    press("ArrowDown", { shiftKey: true });
    press("ArrowRight", { shiftKey: true });
    expect(document.activeElement).toBe(cell("total", "two"));
    press("E");
    expect(draft.definition.access).toEqual({
      one: { name: "edit", total: "edit" },
      two: { name: "edit", total: "edit" },
    });
    expect(screen.getByText("4 cells marked.")).toBeTruthy();
    press("Backspace");
    expect(draft.definition.access).toEqual({});
    act(() => draft.undo());
    act(() => draft.undo());
    expect(draft.definition.access).toEqual({ one: { name: "hide" } });
    // A heading marks all of its step.
    await u.click(screen.getByRole("button", { name: /two: mark all of its cells$/ }));
    expect(document.activeElement).toBe(cell("who", "two"));
    press("s");
    expect(Object.keys(draft.definition.access["two"]!).sort()).toEqual(["name", "size", "total", "who"]);
    press("ArrowDown");
    press("ArrowUp");
    press("h");
    act(() => cell("name", "two").focus());
    press("e");
    expect(draft.told).toContain("It stays hidden while “Who”, in which it stands, is hidden there.");
    expect(cell("name", "two").textContent).toBe("hide");
    // Keys of the browser stay its own.
    press("e", { ctrlKey: true });
    fireEvent.click(cell("size", "one"), { shiftKey: true });
    press("s");
    expect(draft.definition.access["one"]).toMatchObject({ size: "see" });
  });

  it("recalculates the live form while it is typed in, and keeps it as a sample", async () => {
    const u = userEvent.setup();
    show(<FormSheet />, {
      fields: [three[1]!, { id: "sum", name: "Sum", kind: "number", worked: "Total * 2" }],
    });
    const live = within(screen.getByRole("region", { name: "Live form" }));
    await u.clear(live.getByLabelText("Total"));
    await u.type(live.getByLabelText("Total"), "21");
    expect(live.getByText("42")).toBeTruthy();
    await u.click(live.getByRole("button", { name: "Keep as sample" }));
    expect(draft.sample).toMatchObject({ name: "Sample 3", data: { total: "21" } });
  });

  it("says what goes where nothing is yet", () => {
    show(<FormSheet />, { fields: [] });
    expect(screen.getByText("The form is empty")).toBeTruthy();
    fireEvent.paste(screen.getByLabelText("Paste rows"), {
      clipboardData: clip("Title\nAmount"),
    });
    expect(fields()).toBe("Title Amount");
  });
});

describe("the route sheet", () => {
  const decide = (id: string, ...yes: Step[]): Step => ({
    id,
    name: `Check ${id}`,
    kind: "decide",
    who: { rule: { by: "requester" }, how: "one" },
    answers: [
      { id: `${id}-y`, label: "Yes", tone: "agree", steps: yes },
      { id: `${id}-n`, label: "No", tone: "refuse", steps: [] },
    ],
  });
  const tell: Step = {
    id: "t",
    name: "Tell",
    kind: "tell",
    who: { by: "requester" },
    subject: "s",
    text: "",
    ways: [],
  };
  const route = [decide("a"), tell, ...definition.route];
  const outline = (steps: readonly Step[] = draft.definition.route): string =>
    steps
      .map((s) =>
        s.kind === "decide" ? `${s.id}(${s.answers.map((x) => outline(x.steps)).join("|")})` : s.id,
      )
      .join(" ");
  const at = (id: string) => act(() => document.getElementById(`step-${id}`)!.focus());

  it.each(["Total / 0 > 1", "Total > > 1", ""])(
    "stands whatever its formulas come to: %j",
    async (formula) => {
      const rule = { by: "formula" as const, formula: `if ${formula} then Requester else null` };
      const limit = {
        rules: [{ when: formula, length: { amount: 1, unit: "days" as const } }],
        otherwise: { amount: 2, unit: "days" as const },
        rungs: [],
      };
      const all: Step[] = [
        { ...decide("a"), who: { rule, how: "one" }, limit } as Step,
        { ...tell, who: rule } as Step,
        { id: "c", name: "Way", kind: "choose", ways: [{ id: "w", name: "w", when: formula, steps: [] }] },
        { id: "x", name: "Set", kind: "work out", set: [{ field: "total", value: formula }] },
        ...definition.route,
      ];
      const u = userEvent.setup();
      show(<RouteSheet />, { route: all });
      for (const chip of screen.getAllByRole("button", { name: /^(Who|Limit|Who is told)\b/ })) {
        await u.click(chip);
        expect(screen.getByRole("dialog")).toBeTruthy();
        await u.keyboard("{Escape}");
      }
    },
  );

  it("nests with Tab, takes out with Shift Tab, moves with Alt, removes with Delete", () => {
    show(<RouteSheet />, { route });
    at("t");
    press("Tab");
    expect(outline()).toBe("a(|t) end");
    expect(document.activeElement!.id).toBe("step-t");
    press("Tab", { shiftKey: true });
    expect(outline()).toBe("a(|) t end");
    press("ArrowUp", { altKey: true });
    expect(outline()).toBe("t a(|) end");
    press("ArrowDown", { altKey: true });
    press("Delete");
    expect(outline()).toBe("a(|) end");
    for (let i = 0; i < 5; i++) act(() => draft.undo());
    expect(draft.definition.route).toEqual(route);
  });

  it("adds a step of the kind that is typed, below the row", async () => {
    show(<RouteSheet />, { route });
    at("a");
    press("Enter");
    await userEvent.type(screen.getByLabelText("Kind of step"), "together{Enter}");
    expect(draft.definition.route.map((s) => s.kind)).toEqual(["decide", "together", "tell", "finish"]);
    expect(document.activeElement!.id).toBe(`step-${draft.definition.route[1]!.id}`);
    press("/");
    await userEvent.type(screen.getByLabelText("Kind of step"), "nothing of the kind");
    expect(screen.getByText("No kind of step matches.")).toBeTruthy();
  });

  it("copies with everything inside under ids of its own; a jump inside leads to the copy", () => {
    show(<RouteSheet />, {
      route: [
        decide(
          "a",
          tell,
          { id: "j", name: "Jump", kind: "jump", to: "t" },
          { id: "k", name: "Jump", kind: "jump", to: "end" },
        ),
        ...definition.route,
      ],
    });
    at("a");
    press("c", { ctrlKey: true });
    at("end");
    press("v", { ctrlKey: true });
    // Ids of its own end with letters of their own.
    const plain = () => outline().replace(/-[a-z2-9]{3}\b/g, "'");
    expect(plain()).toBe("a(t j k|) end a'(t' j' k'|)");
    const copy = draft.definition.route[2] as Extract<Step, { kind: "decide" }>;
    const [first] = copy.answers[0]!.steps;
    expect(copy.answers[0]!.steps.map((s) => (s.kind === "jump" ? s.to : ""))).toEqual([
      "",
      first!.id,
      "end",
    ]);
    at("a");
    press("x", { ctrlKey: true });
    expect(plain()).toBe("end a'(t' j' k'|)");
  });

  it("walks the rows with the arrows and names a step with F2", async () => {
    show(<RouteSheet />, { route });
    at("start");
    press("ArrowDown");
    expect(document.activeElement!.getAttribute("aria-label")).toBe("2, Decide, Check a");
    press("F2");
    await userEvent.keyboard("{Control>}a{/Control}First look{Enter}");
    expect(draft.definition.route[0]!.name).toBe("First look");
  });

  it("writes a note below a step with Shift F2, which goes with an empty text and comes back with undo", async () => {
    show(<RouteSheet />, { route });
    const noteOf = () => draft.definition.route[0]!.note;
    act(() => document.getElementById("step-a")!.focus());
    press("F2", { shiftKey: true });
    expect(document.activeElement!.getAttribute("aria-label")).toBe("Note of the step");
    await userEvent.keyboard("Since the flood{Enter}");
    expect(noteOf()).toBe("Since the flood");
    expect(document.activeElement!.id).toBe("step-a");
    expect(screen.getByRole("button", { name: "Note of the step: Since the flood" })).toBeTruthy();
    press("F2", { shiftKey: true });
    await userEvent.keyboard("{Control>}a{/Control}Never mind{Escape}");
    expect(noteOf()).toBe("Since the flood");
    press("F2", { shiftKey: true });
    await userEvent.clear(document.activeElement!);
    await userEvent.keyboard("{Enter}");
    expect(noteOf()).toBeUndefined();
    expect(screen.queryByLabelText(/^Note of the step/)).toBeNull();
    act(() => draft.undo());
    expect(noteOf()).toBe("Since the flood");
    // Left without a word, there is none.
    act(() => document.getElementById("step-end")!.focus());
    press("F2", { shiftKey: true });
    act(() => document.getElementById("step-a")!.focus());
    expect(screen.getAllByLabelText(/^Note of the step/)).toHaveLength(1);
  });

  it("tells what is wrong with a step on its row", () => {
    show(<RouteSheet />, { route: [{ ...tell, text: "{Nobody.name}" }, ...definition.route] });
    expect(
      within(document.getElementById("step-t")!.closest("li")!).getByText(/Nothing here is called "Nobody"/),
    ).toBeTruthy();
  });
});

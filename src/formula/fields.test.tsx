import { act, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { Temporal } from "temporal-polyfill";
import {
  compile,
  environment,
  Num,
  NUMBER,
  parseFormula,
  TEXT,
  YESNO,
  type Scope,
  type Value,
} from "@/core/expression";
import { FormulaField, TemplateField } from ".";
import type { FormulaEditorProps } from "./FormulaEditor";
import { offersAt } from "./offers";
import RowsEditor from "./RowsEditor";
import TraceView from "./TraceView";

// The editor needs a browser that lays text out; the browser tests write in the real one.
jest.mock("./FormulaEditor", () => ({ __esModule: true, default: StandIn }));
let editor: FormulaEditorProps;
function StandIn(p: FormulaEditorProps) {
  editor = p;
  return <textarea aria-label={p.label} value={p.text} onChange={(e) => p.onChange(e.target.value)} />;
}

const scope: Scope = {
  Total: NUMBER,
  Urgent: YESNO,
  Place: { t: "text", options: ["Tower", "Store"] },
  Purpose: TEXT,
};
const names = new Map<string, Value>([
  ["Total", Num.of("612.40")],
  ["Urgent", true],
  ["Place", "Tower"],
  ["Purpose", null],
]);
const around = { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") };
const env = environment(names, around);

describe("a formula at rest and being written", () => {
  function Cell({
    value = "",
    kept,
    ...more
  }: { value?: string; kept: string[] } & Partial<Parameters<typeof FormulaField>[0]>) {
    const [v, set] = useState(value);
    return (
      <FormulaField
        label="Shown when"
        value={v}
        scope={scope}
        wanted={YESNO}
        around={around}
        names={names}
        whose="“Small”"
        {...more}
        onCommit={(t) => {
          kept.push(t);
          set(t);
        }}
      />
    );
  }
  const open = async () => {
    await act(async () => {
      fireEvent.click(screen.getByRole("textbox", { name: "Shown when" }));
      screen.getByRole("textbox", { name: "Shown when" }).focus();
    });
    await act(async () => {
      await new Promise((r) => requestAnimationFrame(r));
    });
    return screen.findByRole("dialog", { name: "Formula editor" });
  };

  it("reads as plain words where it has some, and opens only on purpose", async () => {
    const kept: string[] = [];
    render(<Cell value="true" kept={kept} words={{ true: "always" }} />);
    const cell = screen.getByRole<HTMLInputElement>("textbox", { name: "Shown when" });
    expect(cell.value).toBe("always");
    await userEvent.tab();
    expect(document.activeElement).toBe(cell);
    expect(screen.queryByRole("dialog")).toBeNull();
    await open();
    expect(editor).toMatchObject({ writing: "formula", text: "true", lines: 1 });
  });

  it("says what it comes to, what is wrong, and mends it", async () => {
    const kept: string[] = [];
    render(<Cell value="Total > 500" kept={kept} />);
    await open();
    expect(screen.getByRole("status").textContent).toBe("For “Small”: yes");
    act(() => editor.onChange("Totl > 500"));
    expect(screen.getByRole("status").textContent).toBe(
      'Nothing here is called "Totl". Did you mean "Total"?',
    );
    expect(editor.problems).toMatchObject([{ from: 0, to: 4 }]);
    act(() => editor.onMend());
    expect(editor.text).toBe("Total > 500");
    act(() => editor.onChange("Total"));
    expect(screen.getByRole("status").textContent).toContain("yes or no is needed here");
    expect(kept).toEqual([]);
    act(() => editor.onEnter());
    expect(kept).toEqual(["Total"]);
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("keeps what is typed when somebody goes elsewhere; Escape puts the old text back", async () => {
    const kept: string[] = [];
    render(<Cell value="Urgent" kept={kept} />);
    await open();
    act(() => editor.onChange("  Urgent and Total > 5 "));
    fireEvent.keyDown(document.activeElement!, { key: "Escape" });
    expect(screen.getByRole<HTMLInputElement>("textbox", { name: "Shown when" }).value).toBe("Urgent");
    expect(kept).toEqual([]);
    await open();
    act(() => editor.onChange("  Urgent and Total > 5 "));
    act(() => editor.onTab(false));
    expect(kept).toEqual(["Urgent and Total > 5"]);
  });

  it("warns where a value can come to nothing, but not for conditions", async () => {
    const kept: string[] = [];
    const { unmount } = render(<Cell value="Purpose" kept={kept} wanted={TEXT} filled={() => false} />);
    await open();
    expect(screen.getByText(/Then this comes to nothing\.$/)).toBeTruthy();
    unmount();
    render(<Cell value={'Purpose = "x"'} kept={kept} filled={() => false} />);
    await open();
    expect(screen.queryByText(/comes to nothing/)).toBeNull();
  });
});

describe("a text with values in it", () => {
  function Text({ value, kept, lines }: { value: string; kept: string[]; lines?: number }) {
    return (
      <TemplateField
        label="Subject"
        value={value}
        scope={scope}
        around={around}
        names={names}
        whose="“Small”"
        money={(n) => n === "Total"}
        sum={() => false}
        onCommit={(t) => kept.push(t)}
        {...(lines ? { lines } : {})}
      />
    );
  }
  it("reads as it will for the sample, money with its cents, nothing for what is empty", () => {
    render(<Text value="EUR {Total} for {Place}{Purpose}" kept={[]} />);
    expect(screen.getByText("EUR 612.40 for Tower", { exact: false })).toBeTruthy();
  });
  it("says what is wrong below it, and keeps spaces and lines as they are", () => {
    const kept: string[] = [];
    render(<Text value="{Totl}" kept={kept} lines={3} />);
    expect(screen.getByText('Nothing here is called "Totl". Did you mean "Total"?')).toBeTruthy();
    const cell = screen.getByRole("textbox", { name: "Subject" });
    expect(cell.tagName).toBe("TEXTAREA");
    fireEvent.change(cell, { target: { value: " {Total}\n" } });
    fireEvent.blur(cell);
    expect(kept).toEqual([" {Total}\n"]);
  });
});

it("offers completions only where they help", () => {
  const labels = (text: string, asked = false, writing: "formula" | "template" = "formula") => {
    const caret = text.indexOf("|");
    return (
      offersAt(writing, text.replace("|", ""), caret, asked, scope, YESNO, names)
        ?.options.slice(0, 2)
        .map((o) => o.label) ?? null
    );
  };
  expect(labels("|")).toBeNull();
  expect(labels("|", true)).toContain("Urgent");
  expect(labels("Urgent|")).toBeNull();
  expect(labels("Urg|")).toEqual(["Urgent"]);
  expect(labels("Place = |")).toEqual(['"Store"', '"Tower"']);
  expect(labels("Urgent |")).toBeNull();
  expect(labels("Tot|", true, "template")).toBeNull();
  expect(labels("for {|}", false, "template")).not.toBeNull();
});

describe("a condition as rows", () => {
  function Rows({ text, written }: { text: string; written: string[] }) {
    const [t, set] = useState(text);
    return (
      <RowsEditor
        text={t}
        broken={false}
        scope={scope}
        onText={(x) => {
          written.push(x);
          set(x);
        }}
      />
    );
  }
  it("writes the formula that its rows say", async () => {
    const u = userEvent.setup();
    const written: string[] = [];
    render(<Rows text="" written={written} />);
    await u.selectOptions(screen.getByLabelText("Row 1: what"), "Total");
    await u.selectOptions(screen.getByLabelText("Row 1: how"), "is at least");
    await u.type(screen.getByLabelText("Row 1: value"), "500");
    await u.click(screen.getByRole("button", { name: "Add a row" }));
    await u.selectOptions(screen.getByLabelText("Row 2: what"), "Place");
    await u.selectOptions(screen.getByLabelText("Row 2: value"), "Store");
    expect(written.at(-1)).toBe('Total >= 500 and Place = "Store"');
    await u.selectOptions(screen.getByLabelText("How the rows go together"), "any");
    expect(written.at(-1)).toBe('Total >= 500 or Place = "Store"');
    await u.click(screen.getByRole("button", { name: "Remove row 1" }));
    expect(written.at(-1)).toBe('Place = "Store"');
  });
  it("rows go together in one's own way; what cannot be said yet leaves the formula as it is", async () => {
    const u = userEvent.setup();
    const written: string[] = [];
    render(<Rows text="Urgent and (Total > 5 or Total < 2)" written={written} />);
    const logic = () => screen.getByLabelText("How they go together") as HTMLInputElement;
    expect(logic().value).toBe("1 and (2 or 3)");
    fireEvent.change(logic(), { target: { value: "1 and not 2 or 3" } });
    expect(written.at(-1)).toBe("Urgent and not(Total > 5) or Total < 2");
    const before = written.length;
    fireEvent.change(logic(), { target: { value: "1 and (2" } });
    expect(screen.getByText("A bracket is not closed.")).toBeTruthy();
    expect(written).toHaveLength(before);
    // One row fewer: those behind it are counted anew, and where it stood has to be mended.
    fireEvent.change(logic(), { target: { value: "1 or 2 and 3" } });
    await u.click(screen.getByRole("button", { name: "Remove row 2" }));
    expect(logic().value).toBe("1 or ? and 2");
    fireEvent.change(logic(), { target: { value: "1 or 2" } });
    expect(written.at(-1)).toBe("Urgent or Total < 2");
    await u.click(screen.getByRole("button", { name: "Add a row" }));
    expect(logic().value).toBe("(1 or 2) and 3");
    await u.selectOptions(screen.getByLabelText("Row 3: what"), "Place");
    await u.selectOptions(screen.getByLabelText("Row 3: value"), "Store");
    expect(written.at(-1)).toBe('(Urgent or Total < 2) and Place = "Store"');
    await u.selectOptions(screen.getByLabelText("How the rows go together"), "all");
    expect(written.at(-1)).toBe('Urgent and Total < 2 and Place = "Store"');
    expect(screen.queryByLabelText("How they go together")).toBeNull();
  });
  it("says so where a formula says more than rows can", () => {
    render(<Rows text="Urgent and (Total + 1 > 5 or Total < 2)" written={[]} />);
    expect(screen.getByText("This formula says more than rows can; it stays text.")).toBeTruthy();
  });
});

it("why: every part with its values, what was not looked at told apart", () => {
  const text = "Total < 500 and Urgent";
  const { ast } = parseFormula(text, scope);
  expect(compile(ast!)(env)).toBe(false);
  render(<TraceView text={text} ast={ast!} env={env} />);
  expect(
    screen.getAllByRole("row").map((r) => [...r.querySelectorAll("td")].map((c) => c.textContent)),
  ).toEqual([
    ["Total < 500 and Urgent612.4 < 500 and yes", "no"],
    ["Total < 500612.4 < 500", "no"],
    ["Urgent", "not looked at"],
  ]);
});

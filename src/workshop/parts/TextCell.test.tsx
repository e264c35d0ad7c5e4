import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { TextCell } from "./TextCell";

function cell(refuse: (text: string) => boolean = () => false) {
  const kept: string[] = [];
  const commit = (text: string) => {
    if (refuse(text)) return false;
    kept.push(text);
  };
  const view = render(<TextCell aria-label="Name" value="Total" onCommit={commit} />);
  return {
    kept,
    input: screen.getByLabelText<HTMLInputElement>("Name"),
    becomes: (value: string) => view.rerender(<TextCell aria-label="Name" value={value} onCommit={commit} />),
  };
}

it("is kept on Enter or when left, and only where it changed", async () => {
  const u = userEvent.setup();
  const c = cell();
  await u.click(c.input);
  await u.tab();
  expect(c.kept).toEqual([]);
  await u.type(c.input, " 2{Enter}");
  expect(c.kept).toEqual(["Total 2"]);
  c.becomes("Total 2");
  await u.tab();
  expect(c.kept).toEqual(["Total 2"]);
});

it("takes the typing back with Escape", async () => {
  const u = userEvent.setup();
  const c = cell();
  await u.type(c.input, " of all{Escape}");
  expect(c.input.value).toBe("Total");
  await u.tab();
  expect(c.kept).toEqual([]);
});

it("goes back to what was there when the text is refused", async () => {
  const u = userEvent.setup();
  const c = cell((t) => t === "");
  await u.clear(c.input);
  await u.tab();
  expect([c.input.value, c.kept]).toEqual(["Total", []]);
});

it("follows a change from elsewhere", () => {
  const c = cell();
  c.becomes("Sum");
  expect(c.input.value).toBe("Sum");
});

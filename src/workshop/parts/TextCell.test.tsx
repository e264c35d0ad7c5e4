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

it("keeps a text that is refused as it was typed, marked, until it is mended or taken back", async () => {
  const u = userEvent.setup();
  const c = cell((t) => t.includes("-"));
  await u.type(c.input, "-net");
  await u.tab();
  expect([c.input.value, c.kept]).toEqual(["Total-net", []]);
  expect(c.input.getAttribute("aria-invalid")).toBe("true");
  await u.type(c.input, "{Escape}");
  expect([c.input.value, c.input.getAttribute("aria-invalid")]).toEqual(["Total", null]);
  await u.type(c.input, "-net{Enter}");
  await u.clear(c.input);
  await u.type(c.input, "Net{Enter}");
  expect([c.kept, c.input.getAttribute("aria-invalid")]).toEqual([["Net"], null]);
});

it("follows a change from elsewhere", () => {
  const c = cell();
  c.becomes("Sum");
  expect(c.input.value).toBe("Sum");
});

it("shows what is kept otherwise than it was typed, also where that is what stood there", async () => {
  const u = userEvent.setup();
  render(<TextCell aria-label="cell" value={'"a"'} onCommit={(t) => `"${t}"`} />);
  const input = screen.getByLabelText<HTMLInputElement>("cell");
  await u.clear(input);
  await u.type(input, "a{Enter}");
  expect(input.value).toBe('"a"');
});

import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { DeskList, type DeskItem } from "./DeskList";

const push = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ push }) }));
jest.mock("next/link", () => ({
  __esModule: true,
  default: ({
    prefetch: _prefetch,
    children,
    ...rest
  }: {
    prefetch?: boolean;
    children: React.ReactNode;
    href: string;
  }) => <a {...rest}>{children}</a>,
}));

const row = (n: number, more: Partial<DeskItem> = {}): DeskItem => ({
  href: `/desk/KEY-${n}/t1`,
  number: `KEY-${n}`,
  title: `Key ${n}`,
  process: "Store key",
  step: "Manager agrees",
  about: "",
  requester: "Lucia Penrose",
  due: null,
  left: null,
  shared: false,
  taken: false,
  coversFor: null,
  ...more,
});
const ROWS = [
  row(1, {
    due: Date.UTC(2026, 10, 25, 10),
    left: { text: "1 working day left", tone: "soon" },
    shared: true,
  }),
  row(2, { coversFor: "Fintan Galloway", requester: "Dov Merrick" }),
  row(3, { shared: true, taken: true, step: "Hand over" }),
];
const show = () => {
  render(<DeskList rows={ROWS} zone="Europe/Dublin" />);
  return screen.getByLabelText("Narrow the desk");
};
const focused = () => document.activeElement?.getAttribute("href");

it("says of each what it is, from whom, until when, and whose it may be", () => {
  show();
  expect(screen.getAllByRole("listitem").map((l) => l.textContent)).toEqual([
    "Key 1KEY-1 · Store key · from Lucia PenroseManager agreesany of your group may take itWed, 25 Nov, 10:001 working day left",
    "Key 2KEY-2 · Store key · from Dov MerrickManager agreesfor Fintan Galloway, who is awayno limit",
    "Key 3KEY-3 · Store key · from Lucia PenroseHand overtaken by youno limit",
  ]);
});

it("is walked with the arrows, and stays at its ends", () => {
  const box = show();
  box.focus();
  for (const [key, at] of [
    ["ArrowDown", "KEY-1"],
    ["ArrowDown", "KEY-2"],
    ["ArrowDown", "KEY-3"],
    ["ArrowDown", "KEY-3"],
    ["ArrowUp", "KEY-2"],
    ["ArrowUp", "KEY-1"],
    ["ArrowUp", "KEY-1"],
  ] as const) {
    fireEvent.keyDown(document.activeElement!, { key });
    expect(focused()).toContain(at);
  }
});

it("is narrowed by any of its words, and Enter opens the first", async () => {
  const u = userEvent.setup();
  const box = show();
  await u.type(box, "dov");
  expect(screen.getAllByRole("listitem")).toHaveLength(1);
  await u.keyboard("{Enter}");
  expect(push).toHaveBeenCalledWith("/desk/KEY-2/t1");
  push.mockClear();
  await u.clear(box);
  await u.type(box, "zebra{Enter}");
  expect(screen.getByText("Nothing on your desk matches “zebra”.")).toBeTruthy();
  expect(push).not.toHaveBeenCalled();
});

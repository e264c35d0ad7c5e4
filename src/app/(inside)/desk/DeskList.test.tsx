import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { DeskList } from "./DeskList";
import type { DeskItem } from "./deskItem";

const push = jest.fn();
const refresh = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ push, refresh }) }));
const answerSeveralAction = jest.fn();
jest.mock("../../actions/requests", () => ({
  answerSeveralAction: (...a: unknown[]) => answerSeveralAction(...a) as unknown,
}));
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
  task: "t1",
  withOthers: null,
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

const ANSWERS = [
  { id: "ok", label: "Approve", tone: "agree" as const, note: false },
  { id: "no", label: "Decline", tone: "refuse" as const, note: true },
];
const MANY = [
  row(1, { withOthers: { key: "orders", answers: ANSWERS } }),
  row(2),
  row(3, { withOthers: { key: "orders", answers: ANSWERS } }),
  row(4, { withOthers: { key: "keys", answers: ANSWERS } }),
  row(5, { withOthers: { key: "orders", answers: ANSWERS } }),
];
const box = (n: number) => screen.getByRole("checkbox", { name: `Choose KEY-${n}` });
const tick = (n: number) => (box(n) as HTMLInputElement).checked;

it("has several of one step chosen, by mouse and by key, and answered in one way", async () => {
  answerSeveralAction.mockReset();
  answerSeveralAction.mockResolvedValue({ ok: true, value: { answered: 3, refused: [] } });
  const u = userEvent.setup();
  render(<DeskList rows={MANY} zone="Europe/Dublin" />);
  expect(screen.queryByRole("checkbox", { name: "Choose KEY-2" })).toBeNull();
  await u.click(box(1));
  // What is answered otherwise is not chosen with it.
  expect([(box(4) as HTMLInputElement).disabled, (box(3) as HTMLInputElement).disabled]).toEqual([
    true,
    false,
  ]);
  screen.getAllByRole("link")[2]!.focus();
  await u.keyboard(" ");
  expect([tick(1), tick(3), tick(5)]).toEqual([true, true, false]);
  screen.getAllByRole("link")[3]!.focus();
  await u.keyboard(" ");
  expect(tick(4)).toBe(false);
  await u.click(screen.getByRole("button", { name: "Choose 1 more like them" }));
  expect(tick(5)).toBe(true);
  await u.type(screen.getByLabelText("Note for each of them"), "All within budget.");
  await u.click(screen.getByRole("button", { name: "Approve" }));
  expect(answerSeveralAction).toHaveBeenCalledWith(
    ["KEY-1", "KEY-3", "KEY-5"].map((number) => ({ number, task: "t1" })),
    "ok",
    "All within budget.",
  );
  expect(await screen.findByRole("checkbox", { name: "Choose KEY-4" })).toBeTruthy();
  expect([tick(1), tick(3), tick(5)]).toEqual([false, false, false]);
  expect(screen.queryByLabelText("Note for each of them")).toBeNull();
});

it("says which were not answered and why, and leaves them chosen with the note", async () => {
  answerSeveralAction.mockReset();
  const refused = [{ number: "KEY-3", task: "t1", sentence: "Somebody has answered this already." }];
  answerSeveralAction.mockResolvedValue({ ok: true, value: { answered: 1, refused } });
  const u = userEvent.setup();
  render(<DeskList rows={MANY} zone="Europe/Dublin" />);
  await u.click(box(1));
  await u.click(box(3));
  await u.click(screen.getByRole("button", { name: "Decline" }));
  expect(screen.getByText(/“Decline” needs a note that says why/)).toBeTruthy();
  expect(answerSeveralAction).not.toHaveBeenCalled();
  await u.type(screen.getByLabelText("Note for each of them"), "Twice.");
  await u.click(screen.getByRole("button", { name: "Decline" }));
  expect((await screen.findByText("One was not answered:")).closest("section")!.textContent).toContain(
    "KEY-3: Somebody has answered this already.",
  );
  expect([tick(1), tick(3)]).toEqual([false, true]);
  expect((screen.getByLabelText("Note for each of them") as HTMLTextAreaElement).value).toBe("Twice.");
  expect(screen.getByRole("link", { name: "KEY-3" }).getAttribute("href")).toBe("/desk/KEY-3/t1");
});

it("keeps what was chosen and written where the server cannot be reached", async () => {
  answerSeveralAction.mockReset();
  answerSeveralAction.mockRejectedValue(new Error("no network"));
  const u = userEvent.setup();
  render(<DeskList rows={MANY} zone="Europe/Dublin" />);
  await u.click(box(1));
  await u.type(screen.getByLabelText("Note for each of them"), "Fine");
  await u.click(screen.getByRole("button", { name: "Approve" }));
  expect(await screen.findByText(/could not be reached/)).toBeTruthy();
  expect([tick(1), (screen.getByLabelText("Note for each of them") as HTMLTextAreaElement).value]).toEqual([
    true,
    "Fine",
  ]);
});

import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { Limit } from "@/core/route";
import { AskSomebody } from "./AskSomebody";

const refresh = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ refresh }) }));
const actAction = jest.fn();
const findPeopleAction = jest.fn(() => Promise.resolve([]));
jest.mock("../../../../actions/requests", () => ({
  actAction: (...a: unknown[]) => actAction(...a) as unknown,
  findPeopleAction: () => findPeopleAction(),
}));

const onOpenChange = jest.fn();
const show = (stands: Limit["still"] | null = null, asker: { id: string; name: string } | null = LUCIA) =>
  render(
    <AskSomebody open onOpenChange={onOpenChange} number="KEY-1" task="t1" asker={asker} stands={stands} />,
  );
const LUCIA = { id: "lucia.penrose", name: "Lucia Penrose" };
const text = () => screen.getByRole<HTMLTextAreaElement>("textbox", { name: "What you want to know" });
const ask = () => screen.getByRole<HTMLButtonElement>("button", { name: "Ask" });
beforeEach(() => jest.clearAllMocks());

it("asks who made the request, once something is written", async () => {
  actAction.mockResolvedValue({ ok: true, value: { stuck: [] } });
  const u = userEvent.setup();
  show();
  expect([ask().disabled, screen.getByText("First write what you want to know.")]).toEqual([
    true,
    expect.anything(),
  ]);
  await u.type(text(), "Which room?");
  await u.click(ask());
  const asked = { type: "ask", task: "t1", to: LUCIA.id, note: "Which room?" };
  expect(actAction).toHaveBeenCalledWith("KEY-1", asked);
  expect([onOpenChange.mock.calls, refresh.mock.calls.length]).toEqual([[[false]], 1]);
});

it("says whether the limit stands still meanwhile, by whom is asked", async () => {
  const u = userEvent.setup();
  show("asker");
  expect(screen.getByText(/The limit stands still until they answer/)).toBeTruthy();
  await u.click(screen.getByRole("radio", { name: /A colleague/ }));
  expect(screen.getByText(/The limit stays as it is/)).toBeTruthy();
  expect(screen.getByText("First choose whom and write what you want to know.")).toBeTruthy();
});

it("keeps what is written where it is refused, or the server cannot be reached", async () => {
  actAction.mockResolvedValueOnce({ ok: false, sentence: "20 questions are open at this task already." });
  actAction.mockRejectedValueOnce(new Error("no network"));
  const u = userEvent.setup();
  show("anybody");
  await u.type(text(), "Which room?");
  await u.click(ask());
  expect(await screen.findByText("20 questions are open at this task already.")).toBeTruthy();
  await u.click(ask());
  expect(await screen.findByText(/could not be reached/)).toBeTruthy();
  expect([text().value, onOpenChange.mock.calls]).toEqual(["Which room?", []]);
});

it("offers a colleague alone where who made the request cannot be asked", () => {
  show(null, null);
  expect(screen.queryByRole("radio")).toBeNull();
  expect(screen.getByRole("combobox", { name: "Colleague" })).toBeTruthy();
});

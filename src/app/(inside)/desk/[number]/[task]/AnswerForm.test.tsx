import { KINDS } from "@/kinds";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { prepareForm, type AnswersAt, type Field, type FormData } from "@/core/form";
import { actAction } from "../../../../actions/requests";
import { AnswerForm } from "./AnswerForm";

const refresh = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ push: jest.fn(), refresh }) }));
jest.mock("../../../../actions/requests", () => ({
  actAction: jest.fn(),
  lookUpAction: jest.fn(),
  saveTaskDraftAction: jest.fn(() => Promise.resolve({ ok: true, value: { savedAt: 0 } })),
}));
jest.mock("../../../../shell/usePhone", () => ({ usePhone: () => false }));
jest.mock("../../../../shell/say", () => ({ say: jest.fn() }));

const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "reason", name: "Reason", kind: "text" },
];
const { form } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
const page = (kept: FormData, seen: number, answersAt?: AnswersAt) => (
  <AnswerForm
    number="TEST-0001"
    task={{ id: "t3", shared: false, taken: false, purpose: "decide", stands: null }}
    answers={[{ id: "yes", label: "Approve", tone: "agree", note: false, returns: false, then: "on" }]}
    source={{
      form,
      data: kept,
      before: kept,
      failed: {},
      access: { total: "edit", reason: "edit" },
      facts: { people: {}, registers: {}, records: {} },
      now: Date.UTC(2026, 2, 3, 10),
      zone: "Europe/Dublin",
      requester: { kind: "person", id: "una" },
      number: "TEST-0001",
      ...(answersAt ? { layout: { answers: answersAt } } : {}),
    }}
    seen={seen}
    meanwhile={{ changed: [], clashes: [] }}
    note=""
    draftId="8c1f3f0e-6a7e-4a54-9d4c-3d2f5a3c1b11"
    person="una"
    draftAt={null}
    question="Your answer"
  />
);
const total = () => screen.getByLabelText<HTMLInputElement>(/Total/);
const reason = () => screen.getByLabelText<HTMLInputElement>(/Reason/);

it("puts what was typed onto what changed meanwhile, says so, and names what was seen", async () => {
  const user = userEvent.setup();
  const { rerender } = render(page({ total: "5.00", reason: "frost" }, 6));
  await user.clear(total());
  await user.type(total(), "8.00");
  // Somebody else changes both fields; this person typed into one of them.
  rerender(page({ total: "7.00", reason: "rain" }, 9));
  expect(total().value).toBe("8.00");
  expect(reason().value).toBe("rain");
  const said = screen.getByText(/Changed while you had this open/).closest("[role=status]") as HTMLElement;
  expect(said.textContent).toContain("“Total”, “Reason”");
  expect(said.textContent).toContain("“Total” is “7.00” now; you have “8.00”");
  jest.mocked(actAction).mockResolvedValue({ ok: true, value: null } as never);
  await user.click(screen.getByRole("button", { name: /Approve/ }));
  expect(jest.mocked(actAction).mock.lastCall![1]).toMatchObject({
    seen: 9,
    data: { total: "8.00", reason: "rain" },
  });
});

it("takes theirs, or keeps mine, one by one", async () => {
  const user = userEvent.setup();
  const { rerender } = render(page({ total: "5.00", reason: "frost" }, 6));
  for (const [field, text] of [
    [total(), "8.00"],
    [reason(), "snow"],
  ] as const) {
    await user.clear(field);
    await user.type(field, text);
  }
  rerender(page({ total: "7.00", reason: "rain" }, 9));
  const clash = (name: string) => screen.getByText(new RegExp(`“${name}” is .* now`)).closest("li")!;
  await user.click(within(clash("Total")).getByRole("button", { name: "Take theirs" }));
  expect(total().value).toBe("7.00");
  await user.click(within(clash("Reason")).getByRole("button", { name: "Keep mine" }));
  expect(reason().value).toBe("snow");
  expect(screen.queryByText(/you have/)).toBeNull();
});

it("an answer that came too late is not lost: the page is fetched anew and nothing typed goes", async () => {
  const user = userEvent.setup();
  render(page({ total: "5.00", reason: "frost" }, 6));
  await user.clear(total());
  await user.type(total(), "8.00");
  const refused = { ok: false, code: "changed-since", sentence: "“Total” has changed.", problems: [] };
  jest.mocked(actAction).mockResolvedValue(refused as never);
  await user.click(screen.getByRole("button", { name: /Approve/ }));
  expect(refresh).toHaveBeenCalled();
  expect(screen.getByText("“Total” has changed.")).toBeTruthy();
  expect(total().value).toBe("8.00");
});

it("a page that fetched itself with nothing changed stays as it is", () => {
  const { rerender } = render(page({ total: "5.00", reason: "frost" }, 6));
  rerender(page({ total: "5.00", reason: "frost" }, 8));
  expect(screen.queryByText(/Changed while/)).toBeNull();
});

it("what never reached the server is put onto what stands there now, with its note", async () => {
  localStorage.setItem(
    "unkept una answer TEST-0001 t3",
    JSON.stringify({
      value: {
        data: { total: "8.00", reason: "frost" },
        note: "by hand",
        base: { total: "5.00", reason: "frost" },
      },
      over: null,
      at: Date.now(),
    }),
  );
  render(page({ total: "5.00", reason: "rain" }, 9));
  expect(await screen.findByText(/is here again/)).not.toBeNull();
  // What they typed, and what somebody else changed where they had not.
  expect([total().value, reason().value]).toEqual(["8.00", "rain"]);
  expect(screen.getByLabelText<HTMLTextAreaElement>("Note").value).toBe("by hand");
  expect(screen.getByText(/Changed while you had this open/)).not.toBeNull();
  localStorage.clear();
});

it.each([
  ["top" as const, true, false],
  ["end" as const, false, false],
  [undefined, false, true],
])("answers at %s stand before the form: %s, stay in sight: %s", (at, before, stays) => {
  const { container } = render(page({ total: "5.00", reason: "frost" }, 6, at));
  const button = screen.getByRole("button", { name: "Approve" });
  const follows = button.compareDocumentPosition(total()) & Node.DOCUMENT_POSITION_FOLLOWING;
  expect(follows !== 0).toBe(before);
  expect(container.querySelector("[data-foot]") !== null).toBe(stays);
});

it.each(["null", '"x"', "{}", '{"data":null,"base":{},"note":1}', '{"data":{},"base":5}'])(
  "a form opens as it is where what the browser holds is no such thing any more: %s",
  (value) => {
    localStorage.setItem("unkept una answer TEST-0001 t3", `{"value":${value},"over":null,"at":1e15}`);
    render(page({ total: "5.00", reason: "rain" }, 9));
    expect([total().value, reason().value]).toEqual(["5.00", "rain"]);
    expect(screen.getByLabelText<HTMLTextAreaElement>("Note").value).toBe("");
    localStorage.clear();
  },
);

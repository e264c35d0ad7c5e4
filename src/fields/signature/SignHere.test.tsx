import { act, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { personParty, prepareForm, type Field, type FileFacts, type FormData } from "@/core/form";
import { FormView } from "@/forms";
import { KINDS } from "@/kinds";
import { sendFile } from "@/forms/parts";
import { SignHere } from "./SignHere";
import { SignatureRead } from "./SignatureRead";

const strokes: unknown[] = [];
const clear = jest.fn(() => void (strokes.length = 0));
jest.mock("signature_pad", () => ({
  __esModule: true,
  default: class {
    isEmpty = () => strokes.length === 0;
    clear = clear;
    off = () => undefined;
    toData = () => [];
    fromData = () => undefined;
    addEventListener = () => undefined;
  },
}));
jest.mock("./ink", () => ({
  inkOnPaper: () => Promise.resolve(new Blob(["drawn"])),
  nameAsInk: (name: string) => Promise.resolve(name === "No picture" ? null : new Blob([name])),
}));
jest.mock("@/forms/parts", () => ({ ...jest.requireActual("@/forms/parts"), sendFile: jest.fn() }));

const sent = jest.mocked(sendFile);
const kept: FileFacts = { id: "f9", name: "Signature.png", size: 5, type: "image/png", at: 0 };
let arrives: (r: { ok: true; file: FileFacts } | { ok: false; sentence: string }) => void;
beforeEach(() => {
  strokes.length = 0;
  jest.spyOn(HTMLCanvasElement.prototype, "getContext").mockReturnValue(null);
  sent.mockReset();
  sent.mockImplementation(() => ({
    done: new Promise((resolve) => (arrives = resolve)),
    cancel: () => undefined,
  }));
  globalThis.ResizeObserver = class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
});
async function show() {
  const on = { busy: jest.fn(), onSigned: jest.fn() };
  render(
    <>
      <SignHere id="s" label="Signature" invalid={false} {...on} />
      <button type="button">Send request</button>
    </>,
  );
  await act(async () => undefined);
  return { ...on, u: userEvent.setup() };
}
const sign = () => screen.getByRole("button", { name: "Sign" });

it("says that nothing is drawn, and signs what is", async () => {
  const { u, onSigned, busy } = await show();
  await u.click(sign());
  expect(screen.getByRole("status").textContent).toMatch(/Nothing is drawn yet\. Draw .* or type your name/);
  expect(sent).not.toHaveBeenCalled();
  strokes.push("one");
  await u.click(sign());
  expect(sent.mock.calls[0]![0]).toMatchObject({ name: "Signature.png", type: "image/png" });
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Keeping it…" }).disabled).toBe(true);
  // The form waits as long.
  expect(busy.mock.calls).toEqual([[1]]);
  await act(async () => arrives({ ok: true, file: kept }));
  expect(busy.mock.calls).toEqual([[1], [-1]]);
  expect(onSigned.mock.calls).toEqual([[kept]]);
});
it("loses no drawing to whoever goes on without saying so, and sends it once", async () => {
  const { u, onSigned } = await show();
  strokes.push("one");
  fireEvent.pointerDown(screen.getByRole("img"));
  expect(sent).not.toHaveBeenCalled();
  await u.click(screen.getByRole("button", { name: "Send request" }));
  await u.click(screen.getByRole("button", { name: "Send request" }));
  expect(sent).toHaveBeenCalledTimes(1);
  await act(async () => arrives({ ok: true, file: kept }));
  expect(onSigned).toHaveBeenCalledTimes(1);
});
it("is signed by keyboard alone with a name, which must be there, and by Enter without sending the form", async () => {
  const { u } = await show();
  const typing = screen.getByRole("button", { name: "Type your name instead" });
  typing.focus();
  await u.keyboard("{Enter}");
  const name = screen.getByLabelText("Signature: your name");
  expect(document.activeElement).toBe(name);
  await u.keyboard("   {Enter}");
  expect(screen.getByRole("status").textContent).toMatch(/Type the name you sign with, for example/);
  await u.keyboard("Una   Finch{Enter}");
  expect(sent.mock.calls[0]![0].name).toBe("Una Finch.png");
});
it("says what went wrong on the way, and leaves what was there", async () => {
  const { u, onSigned, busy } = await show();
  await u.click(screen.getByRole("button", { name: "Type your name instead" }));
  await u.type(screen.getByLabelText("Signature: your name"), "Una Finch{Enter}");
  await act(async () => arrives({ ok: false, sentence: "The server cannot be reached." }));
  expect(screen.getByText("The server cannot be reached.")).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>("Signature: your name").value).toBe("Una Finch");
  await u.clear(screen.getByLabelText("Signature: your name"));
  await u.type(screen.getByLabelText("Signature: your name"), "No picture{Enter}");
  expect(screen.getByText(/The picture of it could not be made/)).toBeTruthy();
  expect(onSigned).not.toHaveBeenCalled();
  expect(busy.mock.calls.reduce((n, [by]) => n + by, 0)).toBe(0);
});
it("is kept where its page was left meanwhile, and takes nothing of what was typed since", async () => {
  const fields: Field[] = [
    { id: "p1", name: "What", kind: "page", fields: [{ id: "title", name: "Title", kind: "text" }] },
    {
      id: "p2",
      name: "Who",
      kind: "page",
      fields: [
        { id: "sure", name: "Sure", kind: "yes or no" },
        { id: "signed", name: "Signed", kind: "signature" },
      ],
    },
  ];
  const source = {
    form: prepareForm(fields, { registers: {}, kinds: KINDS }).form,
    access: Object.fromEntries(["p1", "title", "p2", "sure", "signed"].map((id) => [id, "edit" as const])),
    facts: { people: {}, registers: {}, records: {} },
    now: 0,
    zone: "Europe/Dublin",
    requester: personParty("una"),
    number: "",
    failed: {},
  };
  let now: FormData = {};
  function Held() {
    const [data, set] = useState<FormData>({ title: "x" });
    now = data;
    return <FormView source={source} data={data} onChange={set} lookUp={async () => []} />;
  }
  render(<Held />);
  const u = userEvent.setup();
  await u.click(screen.getByRole("button", { name: "Next: Who" }));
  await u.click(screen.getByRole("button", { name: "Type your name instead" }));
  await u.type(screen.getByLabelText("Signed: your name"), "Una Finch{Enter}");
  await u.click(screen.getByLabelText("Yes"));
  await u.click(screen.getByRole("button", { name: "Back" }));
  await u.type(screen.getByLabelText("Title"), "yz");
  await act(async () => arrives({ ok: true, file: kept }));
  expect(now).toEqual({ title: "xyz", sure: true, signed: "f9" });
  expect(sent).toHaveBeenCalledTimes(1);
});
it("begins anew", async () => {
  const { u } = await show();
  strokes.push("one");
  await u.click(screen.getByRole("button", { name: "Start over" }));
  expect(clear).toHaveBeenCalled();
});

it.each([
  [{ same: true, changed: [], beyond: false }, "What was signed stands as it was."],
  [
    { same: false, changed: ["Total", "Objects: What"], beyond: true },
    "Changed after signing: Total, Objects: What, something you do not see.",
  ],
  [{ same: false, changed: [], beyond: false }, "What stands here is not what was signed."],
  [{ same: null, changed: [], beyond: false }, "Some of what was signed has been blanked since."],
])("reads as it stands: %j", (is, sentence) => {
  const signed = {
    by: "Una Finch",
    at: Date.UTC(2026, 2, 3, 10),
    value: "f1",
    hash: "0123456789abcdef",
    ...is,
  };
  const show = (file: string) =>
    render(
      <SignatureRead
        label="Signature"
        file={file}
        name="Una Finch.png"
        signed={signed}
        zone="Europe/Dublin"
      />,
    );
  const { unmount } = show("f1");
  expect(screen.getByText(sentence)).toBeTruthy();
  expect(screen.getByText(/account of Una Finch, Tue,? 3 Mar/).textContent).toMatch(
    /2026,? 10:00.*0123456789ab$/,
  );
  expect(screen.getByRole("img", { name: "Signature: Una Finch" }).getAttribute("src")).toBe("/api/files/f1");
  unmount();
  // Another picture than the one that was signed with has no such thing said of it.
  show("f2");
  expect(screen.queryByText(sentence)).toBe(null);
});

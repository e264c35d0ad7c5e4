import { KINDS } from "@/kinds";
import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import {
  prepareForm,
  type Access,
  type FactsData,
  type Field,
  type FormData,
  type FormProblem,
  type RegisterShape,
} from "@/core/form";
import { FormView, type FormViewProps } from "./FormView";
import { sendFile, type Sending } from "./sendFile";

jest.mock("./sendFile", () => ({ sendFile: jest.fn() }));

const prices: RegisterShape = {
  format: "cobble-step/register@1",
  key: "prices",
  name: "Prices",
  one: "price",
  purpose: "",
  title: ["item"],
  columns: [
    { id: "item", name: "Item name", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
  ],
};
const gloves = { id: "1", item: "Gloves", price: "3.15" };
const facts: FactsData = {
  people: {
    una: { id: "una", name: "Una Finch", email: "", jobTitle: "Registrar", department: "", site: "" },
    bot: {
      id: "bot",
      name: "Una's program",
      email: "",
      jobTitle: "",
      department: "",
      site: "",
      service: true,
    },
  },
  registers: { prices },
  records: {},
  files: { f1: { id: "f1", name: "Offer.pdf", size: 12_000, type: "application/pdf", at: 0 } },
};
const FIELDS: Field[] = [
  {
    id: "p1",
    name: "What",
    kind: "page",
    fields: [
      { id: "title", name: "Title", kind: "text", needed: "true", help: "A few words." },
      {
        id: "lines",
        name: "Items",
        kind: "lines",
        fields: [
          { id: "item", name: "Item", kind: "look-up", register: "prices" },
          { id: "qty", name: "Quantity", kind: "number", min: "1" },
          { id: "sum", name: "Sum", kind: "money", worked: "Quantity * Item.Price" },
        ],
      },
      { id: "total", name: "Total", kind: "money", worked: "sum(Items.Sum)" },
    ],
  },
  {
    id: "p2",
    name: "Why",
    kind: "page",
    fields: [
      { id: "reason", name: "Reason", kind: "long text", shown: "Total > 10", needed: "true" },
      { id: "urgent", name: "Urgent", kind: "yes or no" },
      { id: "who", name: "Who", kind: "person" },
      { id: "size", name: "Size", kind: "choice", options: ["small", "large"] },
      { id: "day", name: "Day", kind: "date" },
      { id: "offer", name: "Offer", kind: "file", options: ["pdf"], max: "1" },
    ],
  },
];

function show(
  data: FormData,
  more: Partial<FormViewProps> & { access?: Record<string, Access>; readOnly?: boolean } = {},
) {
  const { access, readOnly, ...props } = more;
  const all = Object.fromEntries(
    [
      "p1",
      "p2",
      "title",
      "lines",
      "item",
      "qty",
      "sum",
      "total",
      "reason",
      "urgent",
      "who",
      "size",
      "day",
      "offer",
    ].map((id) => [id, access?.[id] ?? "edit"]),
  ) as Record<string, Access>;
  const source = {
    form: prepareForm(FIELDS, { registers: { prices }, kinds: KINDS }).form,
    access: all,
    facts,
    now: Date.UTC(2026, 2, 3, 10),
    zone: "Europe/Dublin",
    requester: { kind: "person" as const, id: "una" },
    number: "T-1",
    failed: {},
  };
  let now = data;
  function Held(p: Partial<FormViewProps>) {
    const [d, set] = useState(data);
    now = d;
    return (
      <FormView
        source={source}
        data={d}
        {...(readOnly ? {} : { onChange: set })}
        lookUp={async (_r, s) =>
          "gloves".includes(s.toLowerCase()) ? [{ id: "1", title: "Gloves", record: gloves }] : []
        }
        {...props}
        {...p}
      />
    );
  }
  const { rerender } = render(<Held />);
  return { data: () => now, again: (p: Partial<FormViewProps>) => rerender(<Held {...p} />) };
}
const user = () => userEvent.setup();

it("knows what is picked also when it has been drawn anew since it was listed, and asks nobody again", async () => {
  const u = user();
  const lookUp = jest.fn(async () => [{ id: "1", title: "Gloves", record: gloves }]);
  const f = show({ title: "Banners", lines: [{ "#": "1", item: null, qty: "4" }] }, { lookUp });
  await u.click(screen.getByRole("combobox", { name: "Item, line 1" }));
  const listed = await screen.findByRole("option", { name: "Gloves" });
  // As when what was typed before has been kept just then.
  f.again({ complain: true });
  fireEvent.click(listed);
  await act(async () => new Promise((r) => setTimeout(r, 200)));
  expect(screen.getByText(/^EUR/).textContent).toBe("EUR 12.60");
  expect(lookUp).toHaveBeenCalledTimes(1);
});

it("recalculates as somebody picks and types, and shows what becomes needed", async () => {
  const u = user();
  const f = show({ title: "Banners" });
  await u.click(screen.getByRole("button", { name: "Add a line" }));
  await u.click(screen.getByRole("combobox", { name: "Item, line 1" }));
  await u.type(screen.getByPlaceholderText("Type a part of the name"), "glov");
  await u.click(await screen.findByRole("option", { name: "Gloves" }));
  await u.type(screen.getByLabelText("Quantity, line 1"), "4");
  expect(within(screen.getByRole("table")).getByText("12.60")).toBeTruthy();
  expect(screen.getByText(/^EUR/).textContent).toBe("EUR 12.60");
  expect(f.data()).toMatchObject({ lines: [{ "#": "1", item: "1", qty: "4" }] });
  await u.click(screen.getByRole("button", { name: "Next: Why" }));
  expect(screen.getByLabelText(/^Reason/)).toBeTruthy();
});

it("complains only where somebody has been, until all is to be said", async () => {
  const u = user();
  const f = show({ lines: [{ "#": "1", qty: "0" }] });
  expect(screen.queryByText("Title is needed.")).toBeNull();
  await u.click(screen.getByLabelText(/^Title/));
  await u.tab();
  expect(screen.getByText("Title is needed.")).toBeTruthy();
  expect(screen.getByLabelText(/^Title/).getAttribute("aria-invalid")).toBe("true");
  expect(screen.getByLabelText(/^Title/).getAttribute("aria-describedby")).toBe("title-help title-said");
  f.again({ complain: true });
  expect(screen.getByText("Quantity is at least 1; 0 is less.")).toBeTruthy();
});

it("takes a person to the first thing that is wrong, also on another page", async () => {
  jest.useFakeTimers();
  const wrong: FormProblem[] = [
    { code: "check", path: "day", data: { field: "Day", say: "The store is closed then." } },
  ];
  const f = show({ title: "Banners" });
  expect(screen.queryByLabelText(/^Day/)).toBeNull();
  f.again({ complain: true, extraProblems: wrong });
  await act(() => jest.advanceTimersByTimeAsync(50));
  expect(screen.getByText("The store is closed then.")).toBeTruthy();
  expect(document.activeElement).toBe(screen.getByLabelText(/^Day/));
  expect(screen.getByRole("button", { name: /Why look again/ }).getAttribute("aria-current")).toBe("step");
  jest.useRealTimers();
});

it("lists all that needs another look, each leading to its place, also on another page or in a line", async () => {
  const f = show({
    lines: [{ "#": "1", item: null, qty: "0" }],
    size: "huge",
  });
  expect(screen.queryByRole("navigation", { name: "What needs another look" })).toBe(null);
  f.again({ complain: true });
  const list = within(await screen.findByRole("navigation", { name: "What needs another look" }));
  expect(list.getAllByRole("button").map((b) => b.textContent)).toEqual([
    "Title is needed.",
    expect.stringMatching(/Quantity is at least 1; 0 is less/),
    expect.stringMatching(/huge/),
  ]);
  await user().click(list.getByRole("button", { name: /Quantity/ }));
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("Quantity, line 1")));
  await user().click(list.getByRole("button", { name: /huge/ }));
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("Size")));
});

it("adds lines with Enter in the last one, numbers never used twice, up to the limit", async () => {
  const u = user();
  const f = show({
    lines: [
      { "#": "1", qty: "1" },
      { "#": "5", qty: "2" },
    ],
  });
  await u.click(screen.getByRole("button", { name: "Remove line 1" }));
  await u.click(screen.getByLabelText("Quantity, line 1"));
  await u.keyboard("{Enter}");
  expect(f.data()["lines"]).toMatchObject([{ "#": "5", qty: "2" }, { "#": "6" }]);
});

it("leaves out hidden fields and does not let seen ones be changed", () => {
  show({ title: "Banners", who: "una" }, { access: { title: "see", total: "hide" }, shows: "together" });
  expect(screen.queryByText("Total")).toBeNull();
  expect(screen.queryByRole("textbox", { name: /^Title/ })).toBeNull();
  expect(screen.getByText("Banners")).toBeTruthy();
});

it("reads well where nothing can be changed", () => {
  show(
    {
      title: "Banners",
      urgent: false,
      who: "una",
      day: "2026-11-30",
      offer: "f1",
      lines: [{ "#": "1", item: null, qty: "3" }],
    },
    { readOnly: true },
  );
  for (const text of ["No", "Una Finch", "Mon 30 Nov 2026"]) expect(screen.getByText(text)).toBeTruthy();
  expect(screen.getByRole("link", { name: "Offer.pdf" }).getAttribute("href")).toBe("/api/files/f1");
  expect(screen.getAllByRole("button").map((b) => b.getAttribute("aria-label"))).toEqual([
    "Look at Offer.pdf",
  ]);
  expect(screen.queryByRole("navigation", { name: "Pages of the form" })).toBeNull();
});

it("offers people, not programs, and takes a choice back", async () => {
  const u = user();
  const f = show({ title: "x" }, { shows: "together" });
  await u.click(screen.getByRole("combobox", { name: "Who" }));
  expect(
    (await screen.findAllByRole("option")).filter((o) => o.tagName !== "OPTION").map((o) => o.textContent),
  ).toEqual(["Una FinchRegistrar"]);
  await u.keyboard("{Enter}");
  expect(f.data()["who"]).toBe("una");
  await u.click(screen.getByRole("button", { name: "Clear Who" }));
  expect(f.data()["who"]).toBeNull();
  await u.click(screen.getByLabelText("Yes"));
  await u.selectOptions(screen.getByLabelText("Size"), "large");
  await u.selectOptions(screen.getByLabelText("Size"), "");
  expect(f.data()).toMatchObject({ urgent: true, size: null });
});

describe("a file", () => {
  const pdf = (bytes = 10) => new File([new Uint8Array(bytes)], "Scan.pdf", { type: "application/pdf" });
  const picker = () => document.querySelector<HTMLInputElement>("input[type=file]")!;
  let end: (r: Awaited<Sending["done"]>) => void;
  const cancel = jest.fn(() => end({ ok: false, sentence: "" }));
  beforeEach(() => {
    jest
      .mocked(sendFile)
      .mockReset()
      .mockImplementation(() => ({ done: new Promise((r) => (end = r)), cancel }));
  });

  it("is not sent at all where the field does not take it", () => {
    show({ title: "x" }, { shows: "together" });
    fireEvent.change(picker(), { target: { files: [pdf(1_000_001)] } });
    expect(screen.getByText("Offer takes files of up to 1 MB; this one has 1.1 MB.")).toBeTruthy();
    fireEvent.change(picker(), { target: { files: [new File(["x"], "run.exe")] } });
    expect(screen.getByText('Offer takes these kinds of files: pdf; "run.exe" is another.')).toBeTruthy();
    expect(sendFile).not.toHaveBeenCalled();
  });

  it("is the field's value once it is there, and read by formulas at once", async () => {
    const waiting: number[] = [];
    const added: string[] = [];
    const f = show(
      { title: "x" },
      { shows: "together", onSending: (n) => waiting.push(n), onFile: (x) => added.push(x.id) },
    );
    fireEvent.change(picker(), { target: { files: [pdf()] } });
    expect(screen.getByRole("progressbar", { name: "Sending Scan.pdf" })).toBeTruthy();
    expect(waiting).toEqual([1]);
    await act(async () =>
      end({ ok: true, file: { id: "new", name: "Scan.pdf", size: 10, type: "application/pdf", at: 0 } }),
    );
    expect(f.data()["offer"]).toBe("new");
    expect([waiting, added]).toEqual([[1, 0], ["new"]]);
    expect(screen.getByRole("link", { name: "Scan.pdf" })).toBeTruthy();
    await user().click(screen.getByRole("button", { name: "Remove Scan.pdf" }));
    expect(f.data()["offer"]).toBeNull();
  });

  it("takes no second one while one is on its way, and says so", async () => {
    const f = show({ title: "x" }, { shows: "together" });
    fireEvent.change(picker(), { target: { files: [pdf()] } });
    fireEvent.change(picker(), { target: { files: [new File(["x"], "Other.pdf")] } });
    expect(screen.getByText(/“Other.pdf” was not taken: Offer takes one file/)).toBeTruthy();
    expect(sendFile).toHaveBeenCalledTimes(1);
    await act(async () =>
      end({ ok: true, file: { id: "new", name: "Scan.pdf", size: 10, type: "application/pdf", at: 0 } }),
    );
    expect(f.data()["offer"]).toBe("new");
  });

  it("leaves what was typed elsewhere while it was on its way", async () => {
    const f = show({ title: "x" }, { shows: "together" });
    fireEvent.change(picker(), { target: { files: [pdf()] } });
    await user().type(screen.getByLabelText(/^Title/), "yz");
    await act(async () =>
      end({ ok: true, file: { id: "new", name: "Scan.pdf", size: 10, type: "application/pdf", at: 0 } }),
    );
    expect(f.data()).toMatchObject({ title: "xyz", offer: "new" });
  });

  it("says what went wrong on the way, and leaves what was there", async () => {
    const f = show({ title: "x", offer: "f1" }, { shows: "together" });
    fireEvent.change(picker(), { target: { files: [pdf()] } });
    await act(async () => end({ ok: false, sentence: "The file did not get through." }));
    expect(screen.getByText("The file did not get through.")).toBeTruthy();
    expect(f.data()["offer"]).toBe("f1");
    fireEvent.change(picker(), { target: { files: [pdf()] } });
    await user().click(screen.getByRole("button", { name: "Stop sending Scan.pdf" }));
    expect(cancel).toHaveBeenCalledTimes(1);
    expect(screen.getByRole("link", { name: "Offer.pdf" })).toBeTruthy();
  });
});

it("says where something cannot be worked out, and why, instead of leaving it empty", () => {
  show({ title: "x", lines: [{ "#": "1", item: "1", qty: "many" }] }, { readOnly: true });
  expect(screen.getByText("cannot be worked out").title).toBe("“Quantity” cannot be read.");
  expect(screen.getByText("“Quantity” cannot be read.")).toBeTruthy();
});

it("is a stack of small forms on a phone", async () => {
  const f = show({ title: "x", lines: [{ "#": "1", qty: "2" }] }, { width: "phone", shows: "together" });
  expect(screen.queryByRole("table")).toBeNull();
  await user().click(
    within(screen.getByRole("group", { name: /Line 1/ })).getByRole("button", { name: "remove" }),
  );
  expect(f.data()["lines"]).toEqual([]);
  expect(screen.getByText("No lines yet.")).toBeTruthy();
});

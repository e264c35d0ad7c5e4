import { act, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { DocumentTag, TagSaid } from "@/core/document";
import type { ProcessDefinition } from "@/core/route";
import { definition, Designing, NO_TEMPLATES } from "../../../tests/components/draft";
import type { Draft, DraftKeeper } from "../draft/draft";
import { useDraft } from "../draft/DraftProvider";
import { TemplatesSheet } from "./TemplatesSheet";

// Its handles listen to the whole page and go by size, which jsdom has not either.
jest.mock("react-resizable-panels", () => {
  const plain = ({ children }: { children?: unknown }) => children ?? null;
  return { Group: plain, Panel: plain, Separator: () => null };
});

let draft: Draft;
const See = () => {
  draft = useDraft();
  return null;
};
const tag = (said: TagSaid): DocumentTag => ({ ...said, piece: 0, in: "text", near: "x" });
const FILE = { sha256: "0".repeat(64), name: "Slip.docx", size: 12_000 };
const FORM: ProcessDefinition["fields"] = [
  { id: "total", name: "Total", kind: "number" },
  { id: "urgent", name: "Urgent", kind: "yes or no" },
  {
    id: "things",
    name: "Things",
    kind: "lines",
    fields: [{ id: "what", name: "What", kind: "text" }],
  },
];
function show(
  said: readonly TagSaid[],
  documents: Partial<DraftKeeper["documents"]> = {},
  templates: { id: string; name: string; version: number }[] = [],
) {
  const of = {
    ...definition,
    fields: FORM,
    documents: said.length > 0 ? [{ id: "t", name: "Slip", file: FILE, tags: said.map(tag) }] : [],
  };
  if (said.length === 0) delete (of as Partial<typeof of>).documents;
  const never = async () => ({ ok: false, code: "not-found", sentence: "none" }) as const;
  const keeper: DraftKeeper = {
    save: async (base, edits) => ({ ok: true, value: { version: base + edits.length, theirs: [] } }),
    since: async () => ({ ok: true, value: { edits: [] } }),
    ask: async () => ({ offered: [], none: null, records: {} }),
    preview: never,
    keepLetter: never,
    keepLadder: never,
    mails: never,
    mail: never,
    starting: never,
    values: never,
    reload: () => undefined,
    documents: { ...NO_TEMPLATES, ...documents },
  };
  return render(
    <Designing of={of} keeper={keeper} office={{ templates }}>
      <See />
      <TemplatesSheet />
    </Designing>,
  );
}
const rows = () =>
  within(screen.getByRole("region", { name: "Tags" }))
    .getAllByRole("row")
    .slice(1)
    .map((r) => r.textContent);

it("shows each tag with what it comes to, and mends one that is written wrongly", async () => {
  const u = userEvent.setup();
  show([
    { tag: "value", of: "Totl" },
    { tag: "value", of: "Total * 2" },
  ]);
  expect(rows()[0]).toContain('Nothing here is called "Totl". Did you mean "Total"?');
  expect(rows()[1]).toContain("10");
  await u.click(screen.getByRole("button", { name: /Total$/ }));
  expect(draft.definition.documents![0]!.tags[0]).toMatchObject({ tag: "value", of: "Total" });
  await waitFor(() => expect(rows()[0]).toContain("5"));
  act(() => draft.undo());
  expect(draft.definition.documents![0]!.tags[0]).toMatchObject({ of: "Totl" });
});

it("tells a column outside of its lines where it stands, and an end too many", () => {
  show([
    { tag: "each", of: "Things" },
    { tag: "value", of: "What" },
    { tag: "end" },
    { tag: "value", of: "What" },
    { tag: "end" },
  ]);
  expect(rows()[1]).not.toContain("Nothing here");
  expect(rows()[3]).toContain("It is a column of “Things”, and stands between {for each Things} and {end}.");
  expect(rows()[4]).toContain("there is one too many");
});

it("lists the fields that no tag reads, and copies their tags", async () => {
  const u = userEvent.setup();
  show([{ tag: "value", of: "Total" }]);
  const copies = screen.getByRole("region", { name: "Tags to copy" });
  const [unread, read] = within(copies).getAllByRole("list");
  expect(
    within(unread!)
      .getAllByRole("button")
      .map((b) => b.textContent),
  ).toEqual(["{if Urgent}", "{end}", "{for each Things}", "{What}", "{end}"]);
  expect(read!.textContent).toBe("{Total}");
  await u.click(within(copies).getByRole("button", { name: "{What}" }));
  expect(await navigator.clipboard.readText()).toBe("{What}");
  expect(copies.textContent).toContain("{What} is copied");
});

it("keeps what there is where a file cannot be taken, and says why", async () => {
  const u = userEvent.setup();
  const sentence = "It has macros. Save it in the word processor as DOCX without them.";
  const brought: string[] = [];
  show([], {
    bring: async (id, file) => {
      brought.push(file.name);
      return file.name === "Bad.docx"
        ? { ok: false, code: "invalid", sentence }
        : {
            ok: true,
            value: { file: { ...FILE, name: file.name }, tags: [tag({ tag: "end" })], notes: ["A note."] },
          };
    },
  });
  const input = screen.getByLabelText("DOCX to be brought in");
  await u.upload(input, new File(["x"], "Bad.docx"));
  expect((await screen.findByRole("alert")).textContent).toBe(sentence);
  expect(draft.definition.documents).toBeUndefined();
  await u.upload(screen.getByLabelText("DOCX to be brought in"), new File(["x"], "Good one.docx"));
  await screen.findByText("A note.");
  expect(draft.definition.documents).toMatchObject([{ name: "Good one", file: { name: "Good one.docx" } }]);
  expect(brought).toEqual(["Bad.docx", "Good one.docx"]);
});

it("is kept for all, stays of that with another version, and takes what has become of it", async () => {
  const u = userEvent.setup();
  const from = { template: "k", version: 1 };
  const file = { ...FILE, name: "Slip 2.docx" };
  const asked: string[] = [];
  show(
    [{ tag: "value", of: "Total" }],
    {
      keepForAll: async (id) => (asked.push(`keep ${id}`), { ok: true, value: from }),
      bring: async () => ({ ok: true, value: { file, tags: [], notes: [] } }),
      take: async (id, kept) => {
        asked.push(`take ${kept} as ${id}`);
        return { ok: true, value: { name: "For all", file: FILE, tags: [], from: { ...from, version: 2 } } };
      },
    },
    [{ id: "k", name: "For all", version: 2 }],
  );
  const own = () => draft.definition.documents![0]!;
  await u.click(screen.getByRole("button", { name: "Keep for all processes" }));
  await waitFor(() => expect(own().from).toEqual(from));
  await u.upload(screen.getByLabelText("Another version of Slip"), new File(["x"], "Slip 2.docx"));
  await waitFor(() => expect(own()).toMatchObject({ file, from, name: "Slip" }));
  await u.click(screen.getByRole("button", { name: "The one for all has changed: take it" }));
  await waitFor(() => expect(own()).toMatchObject({ file: FILE, name: "Slip", from: { version: 2 } }));
  expect(screen.queryByRole("button", { name: "The one for all has changed: take it" })).toBeNull();
  act(() => draft.undo());
  expect(own()).toMatchObject({ file, from });
  // As one more, under a name and an id of its own.
  await u.click(screen.getByRole("button", { name: "One kept for all …" }));
  await u.click(await screen.findByRole("menuitem", { name: "For all" }));
  await waitFor(() => expect(draft.definition.documents).toHaveLength(2));
  expect(draft.definition.documents![1]).toMatchObject({ name: "For all", from: { version: 2 } });
  expect(asked).toEqual(["keep t", "take k as t", `take k as ${draft.definition.documents![1]!.id}`]);
});

import { problemsOf } from ".";
import type { AskMail, ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";

const OFFICE = { people: [], groups: {}, duties: {}, calendars: [], mailboxes: ["walls@x.example"] };
const asked = (byMail: Partial<AskMail>, more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "walls",
  name: "Walls",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "W", digits: 3 },
  title: "",
  starts: [{ id: "f", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "a", name: "Age", kind: "number" },
    { id: "b", name: "Both", kind: "number", worked: "Age * 2" },
    { id: "c", name: "Colour", kind: "text" },
  ],
  access: { d: { a: "edit", b: "edit" } },
  route: [
    {
      ...KINDS.steps.decide.blank("d"),
      limit: undefined,
      byMail: { subject: "s", text: "", ...byMail },
    } as Step,
  ],
  samples: [],
  ...more,
});
const CODES = new Set(["no-mailbox", "no-chat", "no-field", "filled-by-nobody", "words-twice", "no-subject"]);
const codes = (d: ProcessDefinition, chat?: string): string[] =>
  problemsOf(d, { kinds: KINDS, registers: {}, office: { ...OFFICE, ...(chat ? { chat } : {}) } }).flatMap(
    (p) => (CODES.has(p.code) ? [p.code] : []),
  );

it("says what is missing for each way by which people are asked", () => {
  expect(codes(asked({}))).toEqual(["no-mailbox"]);
  expect(codes(asked({ by: "chat" }))).toEqual(["no-chat"]);
  expect(codes(asked({ by: "chat" }), "Yard")).toEqual([]);
  expect(codes(asked({ by: "mail and chat" }), "Yard")).toEqual(["no-mailbox"]);
  expect(codes(asked({ by: "mail and chat" }, { mailbox: "walls@x.example" }))).toEqual(["no-chat"]);
  expect(codes(asked({ by: "chat", subject: " " }), "Yard")).toEqual(["no-subject"]);
});

it("says what would not be filled in in chat: what is gone, and what nobody fills in there", () => {
  const fills = (of: string[], by: AskMail["by"] = "chat") => codes(asked({ by, fills: of }), "Yard");
  expect(fills(["a"])).toEqual([]);
  expect(fills(["gone"])).toEqual(["no-field"]);
  expect(fills(["b", "c"])).toEqual(["filled-by-nobody", "filled-by-nobody"]);
  // By mail alone nothing is filled in.
  expect(codes(asked({ fills: ["gone"] }, { mailbox: "walls@x.example" }))).toEqual([]);
});

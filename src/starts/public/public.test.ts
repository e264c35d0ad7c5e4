import { KINDS } from "@/kinds";
import { NOBODY, type Field, type RegisterShape } from "@/core/form";
import { problemsOf } from "@/core/problems";
import type { ProcessDefinition, StartOf } from "@/core/route";
import type { OfficeFacts } from "@/core/kinds";

const crates: RegisterShape = {
  format: "cobble-step/register@1",
  key: "crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [{ id: "code", name: "Code", kind: "text" }],
};
const OFFICE: OfficeFacts = {
  people: [{ id: "una", name: "Una", manager: null }],
  groups: {},
  duties: {},
  calendars: ["office"],
  mailboxes: ["box@quillhaven.example"],
};

const told = (
  more: Partial<StartOf<"public">>,
  fields: Field[] = [],
  of: Partial<ProcessDefinition> = {},
  opened?: string[],
): string[] => {
  const start: StartOf<"public"> = {
    ...(KINDS.starts.public.blank("s") as StartOf<"public">),
    letterhead: "Quillhaven Museums",
    asks: "nothing",
    ...more,
  };
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "t",
    name: "T",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "TTT", digits: 4 },
    title: "",
    starts: [start],
    fields,
    access: {},
    route: [{ id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    samples: [],
    ...of,
  };
  const office = { ...OFFICE, ...(opened ? { opened } : {}) };
  return problemsOf(d, { registers: { crates }, kinds: KINDS, office })
    .filter((p) => p.where.kind === "start")
    .map((p) => `${p.severity} ${p.code} ${p.where.place}`);
};
const field = (kind: Field["kind"], more: Partial<Field> = {}): Field => ({
  id: "f",
  name: "F",
  kind,
  ...more,
});

it("needs to say whose it is, and a mailbox for what it promises", () => {
  expect(told({})).toEqual([]);
  expect(told({ letterhead: " " })).toEqual(["error no-letterhead letterhead"]);
  expect(told({ asks: "address" })).toEqual(["warning no-mailbox asks"]);
  expect(told({ asks: "confirmed" })).toEqual(["error no-mailbox asks"]);
  for (const asks of ["address", "confirmed"] as const)
    expect(told({ asks }, [], { mailbox: "box@quillhaven.example" })).toEqual([]);
});

it.each<[Field["kind"], Partial<StartOf<"public">>, boolean]>([
  ["person", {}, true],
  ["person", { staff: true }, true],
  ["request", {}, true],
  ["file", {}, true],
  ["file", { files: true }, false],
  ["signature", {}, false],
  ["text", {}, false],
])("tells where a needed %s with %j is nobody's outside to fill in: %p", (kind, more, wrong) => {
  const want = wrong ? ["error not-outside asks"] : [];
  expect(told(more, [field(kind, { needed: "true" })])).toEqual(want);
  // One level deeper it is the same.
  const lines = field("lines", { id: "l", name: "L", fields: [field(kind, { needed: "true" })] });
  expect(told(more, [lines])).toEqual(want);
  expect(told(more, [field(kind)])).toEqual([]);
  expect(told(more, [field(kind, { needed: "true" })], { access: { start: { f: "hide" } } })).toEqual([]);
});

it("tells where nothing can be looked up, as far as it is known what is open", () => {
  const look = field("look-up", { register: "crates" });
  expect(told({}, [look])).toEqual([]);
  expect(told({}, [look], {}, [])).toEqual(["warning nothing-open asks"]);
  expect(told({}, [look], {}, ["crates"])).toEqual([]);
  const several = field("look-up in several", { registers: ["crates", "others"] });
  expect(told({}, [several], {}, ["others"])).toEqual([]);
  expect(told({}, [several], {}, ["elsewhere"])).toEqual(["warning nothing-open asks"]);
  expect(told({}, [look], { access: { start: { f: "see" } } }, [])).toEqual([]);
  expect(KINDS.starts.public.mayStart(KINDS.starts.public.blank("s"), { department: "", groups: [] })).toBe(
    false,
  );
  expect(NOBODY.open).toBeUndefined();
});

import fc from "fast-check";
import { KINDS } from "@/kinds";
import type { FieldKind } from "@/fields/shapes";
import { openAccess, registerOpened, NOBODY, type Access, type Field } from ".";

const KIND_NAMES = Object.keys(KINDS.fields) as FieldKind[];
const RANK = { hide: 0, see: 1, edit: 2 } as const;

/** What of each kind is for people outside, written out once more; the rest is as access says. */
const most = (kind: FieldKind, to: { files: boolean; staff: boolean }): Access => {
  if (kind === "person") return to.staff ? "see" : "hide";
  if (kind === "request") return "hide";
  return (kind === "file" || kind === "files") && !to.files ? "see" : "edit";
};

it("is never more than access says, nor than is for people outside, and no less than both let", () => {
  fc.assert(
    fc.property(
      fc.constantFrom<FieldKind>(...KIND_NAMES),
      fc.constantFrom<Access>("edit", "see", "hide"),
      fc.record({ files: fc.boolean(), staff: fc.boolean() }),
      fc.boolean(),
      (kind, is, to, nested) => {
        const field: Field = { id: "x", name: "X", kind };
        const fields: Field[] = nested
          ? [
              {
                id: "p",
                name: "P",
                kind: "page",
                fields: [{ id: "l", name: "L", kind: "lines", fields: [field] }],
              },
            ]
          : [field];
        const got = openAccess(fields, (id) => (id === "x" ? is : "edit"), KINDS.fields, to)("x");
        expect(RANK[got]).toBe(Math.min(RANK[is], RANK[most(kind, to)]));
      },
    ),
    { seed: 5, numRuns: 500, endOnFailure: true },
  );
});

describe("a register people outside see", () => {
  const shape = {
    format: "cobble-step/register@1" as const,
    key: "rooms",
    name: "Rooms",
    one: "room",
    purpose: "",
    title: ["label", "code"],
    key_column: "code",
    columns: [
      { id: "label", name: "Label", kind: "text" as const },
      { id: "code", name: "Code", kind: "text" as const, worked: '"x"' },
      { id: "keeper", name: "Keeper", kind: "person" as const },
      { id: "paper", name: "Paper", kind: "file" as const },
      { id: "asked", name: "Asked", kind: "request" as const },
      { id: "next", name: "Next", kind: "look-up" as const, register: "rooms" },
    ],
  };
  const opened = (open: string[] | undefined, more: object = {}) =>
    registerOpened(shape, { ...NOBODY, ...more, ...(open ? { open } : {}) }, KINDS.fields);
  it("has the columns that were opened, and nothing where none was, whoever else sees it", () => {
    expect(opened(undefined, { see: [{ by: "everybody" }], keepers: [""] })).toBeNull();
    expect(opened([])).toBeNull();
    expect(opened(["nothing"])).toBeNull();
    expect(opened(["label", "next"])?.columns.map((c) => c.id)).toEqual(["label", "next"]);
    expect(opened(["label"])).toMatchObject({ title: ["label"] });
    expect(opened(["label"])).not.toHaveProperty("key_column");
  });
  it("never tells who works here, which requests there are, or files, and of no formula", () => {
    expect(opened(["keeper", "paper", "asked"])).toBeNull();
    expect(opened(["code", "keeper"])?.columns).toEqual([
      { id: "code", name: "Code", kind: "text", worked: "null" },
    ]);
  });
});

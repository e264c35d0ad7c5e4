import { flatFields, walkFields, type Field } from "@/core/form";
import { applyEdit, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { droppedOn, movedTo, TOP } from "./fieldMoves";

const text = (id: string): Field => ({ id, name: id.toUpperCase(), kind: "text" });
const FIELDS: Field[] = [
  text("a"),
  {
    id: "s",
    name: "S",
    kind: "section",
    fields: [text("b"), { id: "l", name: "L", kind: "lines", fields: [text("c")] }],
  },
  { id: "p", name: "P", kind: "page", fields: [text("d")] },
  { id: "e", name: "E", kind: "section", fields: [] },
];
const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "moves",
  name: "Moves",
  purpose: "",
  owners: [],
  numbering: { prefix: "MOV", digits: 4 },
  title: "",
  starts: [],
  access: {},
  samples: [],
  fields: FIELDS,
  route: [],
};
/** The rows as they read, with how deep each stands. */
const read = (fields: readonly Field[]): string => {
  const out: string[] = [];
  walkFields(fields, (f, parents) => void out.push(`${">".repeat(parents.length)}${f.id}`));
  return out.join(" ");
};
const after = (id: string, on: string, folded = false): string | null => {
  const to = droppedOn(FIELDS, id, on, folded);
  if (!to) return null;
  const r = applyEdit(definition, movedTo(id, to.place), { kinds: KINDS, registers: {} });
  if (!r.ok) throw new Error(JSON.stringify(r));
  return read(r.definition.fields);
};

it("a row let go on another comes right below it: first in an open group, behind a folded one", () => {
  expect(read(FIELDS)).toBe("a s >b >l >>c p >d e");
  expect(after("a", "b")).toBe("s >b >a >l >>c p >d e");
  expect(after("a", "s")).toBe("s >a >b >l >>c p >d e");
  expect(after("a", "s", true)).toBe("s >b >l >>c a p >d e");
  expect(after("a", "e")).toBe("s >b >l >>c p >d e >a");
  expect(after("d", TOP)).toBe("d a s >b >l >>c p e");
  expect(after("s", "d")).toBe("a p >d >s >>b >>l >>>c e");
});
it("nothing goes into itself, no page into anything, no group into line items", () => {
  for (const [id, on] of [
    ["s", "s"],
    ["s", "b"],
    ["s", "c"],
    ["p", "a"],
    ["p", "s"],
  ] as const)
    expect([id, on, after(id, on)]).toEqual([
      id,
      on,
      id === "p" && on === "a" ? "a p >d s >b >l >>c e" : null,
    ]);
  for (const group of ["e", "s", "p"]) expect(after(group, "c")).toBeNull();
});
it("wherever a row may be let go, nothing else moves and nothing is lost", () => {
  const all = flatFields(FIELDS).map((f) => f.id);
  const ids = ["a", "s", "b", "l", "c", "p", "d", "e"];
  expect(all.length).toBeGreaterThan(3);
  for (const id of ids)
    for (const on of [TOP, ...ids])
      for (const folded of [false, true]) {
        const text = after(id, on, folded);
        if (text === null) continue;
        const now = text.replaceAll(">", "").split(" ");
        expect([...now].sort()).toEqual([...ids].sort());
        // Without what moved, the rest reads as before.
        const moved = new Set([id]);
        walkFields(FIELDS, (f, parents) => void (parents.some((p) => p.id === id) && moved.add(f.id)));
        expect(now.filter((x) => !moved.has(x))).toEqual(ids.filter((x) => !moved.has(x)));
        if (!folded) expect(now[now.indexOf(id) - 1] ?? TOP).toBe(on);
      }
});

import { KINDS } from "@/kinds";
import type { RegisterShape } from "@/core/form";
import { problemsOf } from "@/core/problems";
import type { ProcessDefinition, StepOf } from "@/core/route";

const crates: RegisterShape = {
  format: "cobble-step/register@1",
  key: "crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "state", name: "State", kind: "text", needed: true, starting: '"new"' },
    { id: "size", name: "Size", kind: "number" },
    { id: "twice", name: "Twice", kind: "number", worked: "Size * 2", needed: true },
  ],
};
const told = (values: StepOf<"write">["values"]): string[] => {
  const write: StepOf<"write"> = {
    id: "w",
    name: "Write",
    kind: "write",
    op: "add",
    register: "crates",
    values,
  };
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "t",
    name: "T",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "TTT", digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [],
    access: {},
    route: [write, { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    samples: [],
  };
  return problemsOf(d, { registers: { crates }, kinds: KINDS })
    .filter((p) => p.where.id === "w")
    .map((p) => p.code);
};

it("asks a new record for what it needs, but not for what its register gives by itself", () => {
  expect(told([{ column: "code", value: '"A"' }])).toEqual([]);
  expect(told([{ column: "size", value: "1" }])).toEqual(["column-needed"]);
});
it("writes no column that is worked out, nor one that is not there", () => {
  const code = { column: "code", value: '"A"' };
  expect(told([code, { column: "twice", value: "1" }])).toEqual(["worked-out"]);
  expect(told([code, { column: "gone", value: "1" }])).toContain("no-column");
});

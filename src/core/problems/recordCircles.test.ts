import { problemsOf } from ".";
import type { ProcessDefinition, Step } from "../route";
import { base, fin } from "../route/testDefinition";
import type { Registers } from "../form";
import { KINDS } from "@/kinds";

const registers: Registers = {
  pots: {
    format: "cobble-step/register@1",
    key: "pots",
    name: "Pots",
    one: "pot",
    purpose: "",
    title: ["name"],
    columns: [
      { id: "name", name: "Called", kind: "text" },
      { id: "state", name: "State", kind: "text" },
      { id: "n", name: "N", kind: "number" },
    ],
  },
};
const told = (start: object, write: object) => {
  const d: ProcessDefinition = {
    ...base,
    title: "",
    samples: [],
    access: {},
    fields: [{ id: "pot", name: "Pot", kind: "look-up", register: "pots" }],
    starts: [
      { id: "r", kind: "record", register: "pots", on: "changed", into: "pot", values: [], ...start },
    ] as never,
    route: [
      {
        id: "w",
        name: "Write",
        kind: "write",
        op: "change",
        register: "pots",
        record: "Pot",
        values: [{ column: "state", value: '"done"' }],
        ...write,
      } as Step,
      fin("end"),
    ],
  };
  return problemsOf(d, { registers, kinds: KINDS })
    .filter((p) => p.code === "record-circle")
    .map((p) => p.message);
};

it.each<[string, object, object, RegExp | null]>([
  [
    "writes what the condition reads",
    { when: 'State = "done"' },
    {},
    /^This writes Pots\.State, which starts “Test” once more/,
  ],
  ["writes what it does not read", { when: "N > 3" }, {}, null],
  ["writes what it does not read, each time", { when: "N > 3", each: true }, {}, /Pots\.State/],
  ["writes what it does not watch", { when: "N > 3", each: true, columns: ["n"] }, {}, null],
  ["writes any, always", {}, {}, /Pots\.State/],
  ["reads it as it was", { when: 'Before.State = "new"' }, {}, /Pots\.State/],
  ["writes quietly", { when: 'State = "done"' }, { quietly: true }, null],
  ["adds, and is started by changes", { when: 'State = "done"' }, { op: "add" }, null],
  [
    "adds, and is started by that",
    { on: "added or changed", when: "N > 3" },
    { op: "add" },
    /This writes Pots, which/,
  ],
  ["removes", { on: "removed" }, { op: "remove", values: [] }, /This writes Pots, which/],
  ["puts", { on: "added", when: "N > 3" }, { op: "put", key: "name" }, /This writes Pots, which/],
  ["writes another register", {}, { register: "pans" }, null],
])("%s", (_, start, write, says) => {
  const messages = told(start, write);
  if (says === null) expect(messages).toEqual([]);
  else expect(messages).toEqual([expect.stringMatching(says)]);
});

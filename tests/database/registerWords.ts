import { NOBODY, type RegisterRights, type RegisterShape } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, registers } from "@/db";
import { sql } from "./world";

/** Two registers with a word of its own in every cell, and a process that reads all of it in many ways. */
export const [ASKER, DECIDER, OWNER, OFFICE, STRANGER] = [
  "lucia.penrose",
  "sorcha.lind",
  "maeve.dunlea",
  "tobias.marrin",
  "dov.merrick",
] as const;
export const PEOPLE = [ASKER, DECIDER, OWNER, OFFICE, STRANGER];

export const shape = (s: Omit<RegisterShape, "format" | "purpose">): RegisterShape => ({
  format: "cobble-step/register@1",
  purpose: "",
  ...s,
});
export const ROOMS = shape({
  key: "rights_rooms",
  name: "Rooms",
  one: "room",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "code", name: "Door code", kind: "text" },
  ],
});
export const VAULT = shape({
  key: "rights_vault",
  name: "Vault",
  one: "piece",
  title: ["name", "mark"],
  columns: [
    { id: "name", name: "Piece", kind: "text" },
    { id: "mark", name: "Mark", kind: "text" },
    { id: "secret", name: "Secret", kind: "text" },
    { id: "room", name: "Room", kind: "look-up", register: "rights_rooms" },
  ],
});
export const COUNT = 4;
/** The word in a cell; it stands nowhere else. */
export const word = (register: string, column: string, n: number) => `${register}${column}word${n}`;

export async function fill(): Promise<void> {
  const db = getPool();
  await registers.createRegister(db, ROOMS, NOBODY);
  await registers.createRegister(db, VAULT, NOBODY);
  for (let n = 1; n <= COUNT; n++) {
    const [room] = await registers.insertRecords(db, ROOMS, [
      { label: word("rooms", "label", n), code: word("rooms", "code", n) },
    ]);
    const item = {
      name: word("vault", "name", n),
      mark: word("vault", "mark", n),
      secret: word("vault", "secret", n),
      room: room!.id,
    };
    await registers.insertRecords(db, VAULT, [item]);
  }
}

export const write = (id: string, ...columns: string[]): Step => ({
  id,
  name: `Mark ${columns.join(" and ")}`,
  kind: "write",
  op: "change",
  register: "rights_vault",
  record: "Item",
  values: columns.map((column) => ({
    column,
    value: `Item.${column === "secret" ? "Secret" : "Mark"} + "again"`,
  })),
});
export const long = (id: string, name: string, text: string): Step => ({
  id,
  name,
  kind: "choose",
  ways: [
    { id: `${id}-w`, name: "long", when: text, steps: [] },
    { id: `${id}-o`, name: "else", steps: [] },
  ],
});
export const INNER: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "rights-inner",
  name: "Rights inside",
  purpose: "",
  owners: [OWNER],
  numbering: { prefix: "", digits: 4 },
  title: "",
  procedure: true,
  starts: [],
  access: {},
  samples: [],
  fields: [{ id: "thing", name: "Thing", kind: "look-up", register: "rights_vault", hand: "in" }],
  route: [long("ic", "Inner way", 'Thing.Secret != "x"')],
};
export const steps: Step[] = [
  {
    id: "f",
    name: "Pieces",
    kind: "find",
    register: "rights_vault",
    where: 'Secret != "x" and Room.Door code != Item.Room.Door code or Secret = Item.Secret',
    take: "some",
    most: 10,
    nothing: "on",
    ways: [],
  },
  long("c", "Way", "string length(Item.Secret) > 1"),
  { id: "w1", name: "Set it", kind: "work out", set: [{ field: "other", value: "Item" }] },
  {
    id: "h",
    name: "Hand on",
    kind: "hand to",
    procedure: "rights-inner",
    ...portsOf(INNER.fields),
    values: [{ port: "thing", value: "Item" }],
  } as Step,
  write("x", "secret"),
  write("y", "mark"),
  write("z", "secret", "mark"),
  {
    id: "d",
    name: "Look",
    kind: "decide",
    who: { rule: { by: "person", person: DECIDER }, how: "one" },
    answers: [{ id: "ok", label: "OK", tone: "agree", steps: [] }],
  },
  { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
];
export const DEFINITION: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "rights",
  name: "Rights tried",
  purpose: "",
  owners: [OWNER],
  numbering: { prefix: "RGHT", digits: 4 },
  title: "Tried",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [{ id: "s1", name: "One", requester: ASKER, data: { item: "2" } }],
  fields: [
    { id: "item", name: "Item", kind: "look-up", register: "rights_vault" },
    {
      id: "long",
      name: "Long",
      kind: "yes or no",
      worked: "string length(Item.Secret + Item.Room.Door code) > 3",
    },
    { id: "other", name: "Other", kind: "look-up", register: "rights_vault" },
    { id: "note", name: "Note", kind: "text", needed: 'Item.Mark = "none"', shown: 'Item.Secret != "none"' },
  ],
  route: steps,
};

export const rights = (key: string, r: RegisterRights) =>
  sql("update register set rights = $2 where key = $1", [key, JSON.stringify(r)]);

export const PAGE = { search: "", filters: [], sort: [], offset: 0, limit: 50 };

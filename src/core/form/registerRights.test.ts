import type { Onlooker } from "./audience";
import {
  closedRegister,
  EVERYBODY,
  factsSeen,
  hiddenOfRecords,
  NOBODY,
  registerSeen,
} from "./registerRights";
import { recordTitle, type RegisterShape } from "./registerShape";

const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "stores",
  name: "Stores",
  one: "store",
  purpose: "",
  title: ["name", "code"],
  key_column: "code",
  columns: [
    { id: "name", name: "Room", kind: "text" },
    { id: "code", name: "Door code", kind: "text" },
    { id: "risk", name: "Risk", kind: "text" },
  ],
};
const who = (more: Partial<Onlooker> = {}): Onlooker => ({
  id: "una",
  department: "Registry",
  groups: ["committee"],
  holds: (duty) => duty === "Keyholder",
  ...more,
});
const ids = (s: RegisterShape | null) => s?.columns.map((c) => c.id);

it("is nobody's to see where nothing is said, all of its keepers', and else whoever's is among one audience", () => {
  expect(registerSeen(SHAPE, NOBODY, who())).toBeNull();
  expect(registerSeen(SHAPE, { ...NOBODY, keepers: ["una"], columns: { risk: [] } }, who())).toBe(SHAPE);
  expect(registerSeen(SHAPE, EVERYBODY, who())).toBe(SHAPE);
  for (const a of [
    { by: "group", group: "committee" },
    { by: "department", department: "Registry" },
    { by: "duty", duty: "Keyholder" },
    { by: "person", person: "una" },
  ] as const) {
    expect(registerSeen(SHAPE, { ...NOBODY, see: [a] }, who())).toBe(SHAPE);
    const other = who({ id: "finn", department: "Finance", groups: [], holds: () => false });
    expect(registerSeen(SHAPE, { ...NOBODY, see: [a] }, other)).toBeNull();
    expect(ids(registerSeen(SHAPE, { ...EVERYBODY, columns: { code: [a] } }, other))).toEqual([
      "name",
      "risk",
    ]);
  }
  // Seeing a column is nothing without seeing the register.
  expect(registerSeen(SHAPE, { ...NOBODY, columns: { name: [{ by: "everybody" }] } }, who())).toBeNull();
});

it("is neither named nor found again by a column that is hidden", () => {
  const seen = registerSeen(SHAPE, { ...EVERYBODY, columns: { code: [] } }, who())!;
  expect(seen.title).toEqual(["name"]);
  expect(seen.key_column).toBeUndefined();
  const record = { id: "7", name: "Attic", code: "4711", risk: "high" };
  expect(recordTitle(seen, record)).toBe("Attic");
  expect(recordTitle(closedRegister(SHAPE), record)).toBe("store 7");
});

it("cuts facts to what is seen; a record of a closed register is still there", () => {
  const records = { stores: { "7": { id: "7", name: "Attic", code: "4711", risk: null } } };
  const all = { stores: SHAPE };
  const facts = { registers: all, records };
  expect(factsSeen(facts, all, all)).toBe(facts);
  const seen = registerSeen(SHAPE, { ...EVERYBODY, columns: { code: [] } }, who())!;
  expect(factsSeen(facts, all, { stores: seen }).records).toEqual({
    stores: { "7": { id: "7", name: "Attic", risk: null } },
  });
  const closed = factsSeen(facts, all, {});
  expect(closed.records).toEqual({ stores: { "7": { id: "7" } } });
  expect(closed.registers["stores"]!.columns).toEqual([]);
});

it("hides from formulas the columns, what records are called where those name them, and whole records", () => {
  const hides = (column: string) =>
    hiddenOfRecords(
      { stores: SHAPE },
      { stores: registerSeen(SHAPE, { ...EVERYBODY, columns: { [column]: [] } }, who())! },
    );
  const told = (column: string) =>
    [
      "record stores.Room",
      "record stores.Door code",
      "record stores.Risk",
      "record stores.name",
      "record stores.*",
      "*.Risk",
      "record other.Risk",
      "Risk",
    ].filter(hides(column));
  expect(told("risk")).toEqual(["record stores.Risk", "record stores.*", "*.Risk"]);
  expect(told("code")).toEqual(["record stores.Door code", "record stores.name", "record stores.*"]);
  expect(
    ["record stores.Room", "record stores.name", "*.*"].filter(hiddenOfRecords({ stores: SHAPE }, {})),
  ).toHaveLength(3);
  expect(["record stores.Room", "*.*"].filter(hiddenOfRecords({ stores: SHAPE }, { stores: SHAPE }))).toEqual(
    [],
  );
});

import { isAmong, type Audience, type Onlooker } from "./audience";
import type { FactsData } from "./facts";
import type { FieldKinds } from "./fieldBehaviour";
import { staying, type RegisterShape, type Registers, type StoredRecord } from "./registerShape";

/** Who may see what of a register. Where nothing is said, nobody. */
export interface RegisterRights {
  /** Those who look after it: they see all of it and say who else may, by their ids. */
  keepers: readonly string[];
  /** Who sees its records: whoever is among one of these. */
  see: readonly Audience[];
  /** By a column's id: of those who see the register only these see the column. */
  columns: Readonly<Record<string, readonly Audience[]>>;
  /** Keys of processes whose steps may not read it any more. */
  withdrawn: readonly string[];
  /** Who of those who see it may add records, change them, and take them out. */
  add: readonly Audience[];
  change: readonly Audience[];
  remove: readonly Audience[];
  /** By a column's id: of those who add or change records only these fill the column in. */
  fill: Readonly<Record<string, readonly Audience[]>>;
  /** Ids of the columns that people outside see in public forms; nothing of the register where none is. */
  open?: readonly string[];
}
/** Of a register nobody has said anything about. */
export const NOBODY: RegisterRights = {
  keepers: [],
  see: [],
  columns: {},
  withdrawn: [],
  add: [],
  change: [],
  remove: [],
  fill: {},
};
export const EVERYBODY: RegisterRights = { ...NOBODY, see: [{ by: "everybody" }] };

/** What somebody sees of a register: its shape with the columns that are theirs to see; null for none of it. */
export function registerSeen(
  whole: RegisterShape,
  rights: RegisterRights,
  who: Onlooker,
): RegisterShape | null {
  const shape = staying(whole);
  if (rights.keepers.includes(who.id)) return shape;
  const among = (of: readonly Audience[]) => of.some((a) => isAmong(a, who));
  if (!among(rights.see)) return null;
  const sees = (column: string) => {
    const only = Object.hasOwn(rights.columns, column) ? rights.columns[column] : undefined;
    return only === undefined || among(only);
  };
  return withColumns(shape, sees);
}

/**
 * What somebody outside, whoever, sees of a register in a public form: the columns its keepers opened; null for none of
 * it. Nothing else said of the register counts for them, not even “everybody”; and who works here, which requests there
 * are, and files of records are not opened by a register.
 */
export function registerOpened(
  whole: RegisterShape,
  rights: RegisterRights,
  kinds: FieldKinds,
): RegisterShape | null {
  const shape = staying(whole);
  const opened = new Set(shape.columns.flatMap((c) => (mayBeOpened(c, kinds) ? [c.id] : [])));
  const seen = withColumns(shape, (id) => opened.has(id) && rights.open?.includes(id) === true);
  return seen.columns.length > 0 ? seen : null;
}

/** Whether people outside may ever see a column. */
export function mayBeOpened(
  column: Pick<RegisterShape["columns"][number], "kind">,
  kinds: FieldKinds,
): boolean {
  const of = kinds[column.kind].idOf;
  return of === null || of === "record";
}

/** A register with some of its columns, and nothing that tells of the others. */
function withColumns(shape: RegisterShape, sees: (column: string) => boolean): RegisterShape {
  if (shape.columns.every((c) => sees(c.id))) return shape;
  const { key_column: key, rules: _, ...rest } = shape;
  return {
    ...rest,
    // What something is worked out from may be what is hidden.
    columns: shape.columns.flatMap(({ worked, starting: _, ...c }) =>
      sees(c.id) ? [{ ...c, ...(worked === undefined ? {} : { worked: "null" }) }] : [],
    ),
    title: shape.title.filter(sees),
    ...(key !== undefined && sees(key) ? { key_column: key } : {}),
  };
}

/** What somebody may do with the records of a register. */
export interface RecordRights {
  add: boolean;
  change: boolean;
  remove: boolean;
  /** Ids of the columns they fill in, where they add or change. */
  fill: readonly string[];
}

/** What somebody may do with records; nothing where nothing is said, or they do not see the register. */
export function recordRights(shape: RegisterShape, rights: RegisterRights, who: Onlooker): RecordRights {
  const seen = registerSeen(shape, rights, who);
  const keeps = rights.keepers.includes(who.id);
  const among = (of: readonly Audience[]) => keeps || of.some((a) => isAmong(a, who));
  const may = (what: "add" | "change" | "remove") => seen !== null && among(rights[what]);
  const fills = (column: string) => !Object.hasOwn(rights.fill, column) || among(rights.fill[column]!);
  return {
    add: may("add"),
    change: may("change"),
    remove: may("remove"),
    fill: (seen?.columns ?? []).filter((c) => c.worked === undefined && fills(c.id)).map((c) => c.id),
  };
}

/** A register somebody sees nothing of: that a record is there can be told, and nothing in it. */
export const closedRegister = (shape: RegisterShape): RegisterShape => {
  const { key_column: _, rules: _r, ...rest } = shape;
  return { ...rest, columns: [], title: [] };
};

/**
 * Facts as somebody may have them: of records only what is theirs to see is left. A record of a register they see
 * nothing of is still there, so that what points at it is no mistake.
 * @param seen the registers they see, with the columns they see
 */
export function factsSeen<F extends Pick<FactsData, "registers" | "records">>(
  facts: F,
  all: Registers,
  seen: Registers,
): F {
  const closed = Object.values(facts.registers).filter((r) => seen[r.key] !== all[r.key]);
  if (closed.length === 0) return facts;
  const registers = { ...facts.registers };
  const records = { ...facts.records };
  for (const r of closed) {
    const shape = seen[r.key] ?? closedRegister(r);
    registers[r.key] = shape;
    const rows = facts.records[r.key];
    if (rows)
      records[r.key] = Object.fromEntries(Object.entries(rows).map(([id, row]) => [id, cut(row, shape)]));
  }
  return { ...facts, registers, records };
}

const cut = (row: StoredRecord, shape: RegisterShape): StoredRecord => ({
  ...Object.fromEntries(shape.columns.flatMap((c) => (row[c.id] === undefined ? [] : [[c.id, row[c.id]!]]))),
  id: row.id,
});

/**
 * Whether something a formula reads of records (as a `Clause` tells it: `record objects.Shelf`) is hidden from somebody,
 * or may be. What a record is called hangs on the columns that name it.
 */
export function hiddenOfRecords(all: Registers, seen: Registers): (read: string) => boolean {
  const hidden = readsHiddenFrom(all, seen);
  return (read) => hidden.has(read);
}

/** The same as a list. */
export const readsHidden = (all: Registers, seen: Registers): string[] => [...readsHiddenFrom(all, seen)];

/** What of records is hidden from somebody, whoever: only what everybody sees is not. */
export const readsHiddenFromAny = (
  all: Registers,
  rights: Readonly<Record<string, RegisterRights>>,
): string[] => {
  const seen: Record<string, RegisterShape> = {};
  for (const shape of Object.values(all)) {
    const own = registerSeen(shape, rights[shape.key] ?? NOBODY, ANYBODY);
    if (own) seen[shape.key] = own;
  }
  return [...readsHiddenFrom(all, seen)];
};
/** Somebody of whom nothing is known. */
const ANYBODY: Onlooker = { id: "", department: "", groups: [], holds: () => false };

function readsHiddenFrom(all: Registers, seen: Registers): ReadonlySet<string> {
  const hidden = new Set<string>();
  for (const shape of Object.values(all)) {
    const own = seen[shape.key];
    if (own === shape) continue;
    const gone = shape.columns.filter((c) => !own?.columns.some((x) => x.id === c.id));
    const names = gone.map((c) => c.name);
    if (shape.title.some((id) => gone.some((c) => c.id === id))) names.push("name");
    for (const name of [...names, "*"]) {
      hidden.add(`record ${shape.key}.${name}`);
      hidden.add(`*.${name}`);
    }
  }
  return hidden;
}

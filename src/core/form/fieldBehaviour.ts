import type { FieldKind } from "@/fields/shapes";
import type { ContextValue, Type, Value } from "../expression";
import type { Field, Stored } from "./field";
import { MOST_RECORDS } from "./mostRecords";
import type { ValueMistake } from "./formProblem";
import type { Registers } from "./registerShape";
import type { CellContext, CellRead, SheetCell } from "./sheetCell";

/** A field or a column, as far as its values are concerned. */
export type TypedField = Pick<Field, "kind" | "register" | "registers" | "options" | "among">;

/** A record, by the key of its register and its id there. */
export interface RecordRef {
  register: string;
  id: string;
}

/** How fields of a kind point at records. */
export interface RecordLinks {
  /** Keys of the registers they may point at. */
  registers(f: TypedField): readonly string[];
  /** What a stored value points at; null where it is no pointer. */
  target(f: TypedField, raw: string): RecordRef | null;
  /** What is stored to point at a record. */
  pointer(to: RecordRef): string;
  /** The same field pointing at records of these registers. */
  at(registers: readonly string[]): Pick<TypedField, "register" | "registers">;
}

/** What stored ids stand for. */
export interface ValueFacts {
  person(id: string): ContextValue;
  record(register: string, id: string): ContextValue;
  /** Whether there is such a person, or record; what an id points at may be gone, or never have been there. */
  isPerson(id: string): boolean;
  isRecord(register: string, id: string): boolean;
  /** Null for a file that is not there, or not theirs. */
  file(id: string): ContextValue | null;
  /** By its number; null for one that is not there, or not known here. */
  request(number: string): ContextValue | null;
}

/** Reports a problem of a field; `place` is the property or formula it is about. */
export type SayOfField = (
  severity: "error" | "warning",
  code: string,
  message: string,
  place?: string,
) => void;

/** What a kind of field knows besides name, help and formulas. */
export interface FieldProperties {
  /** What its choices are: its own values, endings of files, or nothing. */
  options: "values" | "several values" | "endings" | null;
  /** What least and greatest are compared as. */
  range: "number" | "date" | "megabytes" | "rows" | null;
  /** Whether its number is a sum of money, which reads with its cents. */
  money: boolean;
}

/** Everything about a kind of field that is pure. */
export interface FieldBehaviour {
  /** The type of its value in formulas; `record` gives that of a record. */
  type(f: TypedField, record: (register: string) => Type): Type;
  /** A stored value, which is not empty, as formulas read it; null where it cannot be read. */
  value(f: TypedField, raw: string | boolean, facts: ValueFacts): Value;
  /** A worked-out value as it is kept. */
  settled(v: Value): Value;
  /**
   * What is wrong with a value that is there.
   * @param raw as it is stored
   * @param v as formulas read it; null where it cannot be read
   */
  mistakes(f: Field, raw: Stored, v: Value): ValueMistake[];
  /** What is wrong with how it is set up. */
  problems(f: Field, ctx: { registers: Registers; say: SayOfField }): void;
  has: FieldProperties;
  /** Words of a name that make this kind likely, and how early they are looked for; null where none do. */
  guess: { words: RegExp; rank: number } | null;
  /** What its stored value is the id of. */
  idOf: "person" | "record" | "file" | "request" | null;
  /** A value of it says that somebody stands for what they were shown with it. */
  signs?: true;
  /** Null for what points at no records. */
  links: RecordLinks | null;
  /**
   * Of one whose value is several texts: how they are kept as one. Where none is chosen formulas read a list of none, so
   * that counting them and asking for one come to an answer. Null for all others.
   */
  many: { texts(raw: string): string[]; kept(of: readonly Value[]): string | null } | null;
  /** Something to fill in where only having a value matters; null where nothing would do. */
  filler: string | null;
  /** What a cell of a sheet comes to; null where it stands in no cell. */
  cell: ((f: Field, cell: SheetCell, ctx: CellContext) => CellRead) | null;
}

/** The records a value points at: as many as its kind holds. */
export function targetsOf(f: TypedField, raw: unknown, kinds: FieldKinds): RecordRef[] {
  const { links, many } = kinds[f.kind];
  if (!links || typeof raw !== "string" || raw === "") return [];
  // One more than there may be, so that it is seen that there are too many; a mistake is all that comes of the others.
  return (many?.texts(raw) ?? [raw]).slice(0, MOST_RECORDS + 1).flatMap((x) => links.target(f, x) ?? []);
}

/** Whether one of several things is picked in it: a person, a record, a choice. */
export const isPicked = (kind: Pick<FieldBehaviour, "has" | "idOf">): boolean =>
  kind.has.options === "values" || kind.idOf === "person" || kind.idOf === "record";

/** Whether what can be picked in it may be told by a condition: people, or the records or texts of one register. */
export const mayOffer = (f: Pick<Field, "kind" | "among">, kinds: FieldKinds): boolean => {
  const { idOf, links } = kinds[f.kind];
  if (f.among) return true;
  return idOf === "person" || (idOf === "record" && links?.at(["a", "b"]).registers === undefined);
};

/** Keys of the registers a field looks in. */
export const registersOf = (f: TypedField, kinds: FieldKinds): readonly string[] =>
  f.among ? [f.among.register] : (kinds[f.kind].links?.registers(f) ?? []);

/** Whether a value can be said in a line: what names somebody or something, or is more than one, cannot. */
export const isSaidInALine = (kind: Pick<FieldBehaviour, "cell" | "idOf" | "many">): boolean =>
  kind.cell !== null && kind.idOf === null && kind.many === null;

export type FieldKinds = Readonly<Record<FieldKind, FieldBehaviour>>;

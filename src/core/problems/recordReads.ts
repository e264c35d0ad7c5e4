import { readsInWords, type Node, type Reads } from "../expression";
import { registersOf, walkFields, type Registers, type RegisterShape } from "../form";
import { startKind, stepKind } from "../kinds";
import type { FormulaPlace, ProcessDefinition, StepPlace, Surrounding } from "../route";
import { place, type CheckCache, type Problem } from "./problem";

/** A register that something in a definition reads, and which of its columns, by their ids. */
export interface RecordRead {
  where: Problem["where"];
  register: string;
  columns: readonly string[];
  /** All of them, because what is read is known only when it is worked out. */
  whole?: true;
}

/**
 * What a definition reads of registers: what its look-ups and steps are about, and what its formulas read of records,
 * by names or whole. What is known only when a formula runs counts as read of every register the definition comes to.
 */
export function recordReads(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { registers, kinds }: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
): RecordRead[] {
  const out: RecordRead[] = [];
  const read = (where: Problem["where"], register: string, columns: readonly string[], whole = false) => {
    const shape = registers[register];
    if (shape)
      out.push({
        where,
        register,
        columns: columns.filter((c) => has(shape, c)),
        ...(whole ? { whole } : {}),
      });
  };
  walkFields(d.fields, (f) => {
    for (const key of registersOf(f, kinds.fields))
      read(place("field", f.id, "register"), key, f.among ? [f.among.column] : (registers[key]?.title ?? []));
    for (const c of f.checks ?? [])
      if (c.records) read(place("field", f.id, "register"), c.records.register, []);
  });
  for (const { step } of places.values()) {
    const searched = stepKind(kinds, step).searches?.(step);
    if (searched) {
      const { register, columns, all } = searched;
      const shape = registers[register];
      const chosen = all === null ? (shape?.columns.map((c) => c.id) ?? []) : columns;
      read(place("step", step.id, "register"), register, [...chosen, ...(shape?.title ?? [])]);
    }
  }
  for (const s of d.starts) {
    const behaviour = startKind(kinds, s);
    const [of, dates] = [behaviour.ofRecords?.(s), behaviour.ofDates?.(s)];
    const register = (of ?? dates ?? behaviour.fills?.(s))?.register;
    if (register === undefined) continue;
    const watched = [...(of?.columns ?? []), ...(dates ? [dates.column] : [])];
    read(place("start", s.id, "register"), register, [...watched, ...(registers[register]?.title ?? [])]);
  }
  const near = reached(new Set(out.map((r) => r.register)), registers, kinds);
  for (const f of formulas) {
    const { owner } = f;
    const where = place(owner.kind, owner.kind === "process" ? d.key : owner.id, f.place);
    const checked = cache.check(f.formula, f.scope, f.signature, f.type);
    const words = checked.ast ? readsInWords(checked.ast, checked.reads) : [];
    if (checked.ast && f.intoRows) words.push(...wholesOf(checked.ast, checked.reads));
    for (const word of words) {
      const m = /^(?:record ([^.]+)|(\*))\.(.*)$/s.exec(word);
      if (m)
        for (const shape of m[1] === undefined ? near : one(registers, m[1]))
          read(where, shape.key, columnsCalled(shape, m[3]!), m[3] === "*");
    }
    if (f.inLists)
      for (const { name, target } of checked.reads.references) {
        const [of, key, id] = target.t === "name" ? (f.declared(name)?.split(" ") ?? []) : [];
        if (of === "column" && key !== undefined && id !== undefined) read(where, key, [id]);
      }
    const own = f.columnsOf === null ? undefined : registers[f.columnsOf];
    if (own)
      for (const { name, target } of checked.reads.references)
        if (target.t === "name") read(where, own.key, columnsNamed(own, name));
  }
  return out.filter((r) => r.columns.length > 0 || r.where.place === "register");
}

/** What a formula hands on as it is, in the words of `Clause.reads`. */
const wholesOf = (ast: Node, { wholes }: Reads): string[] =>
  wholes.filter((w) => w.from <= ast.from && w.to >= ast.to).map((w) => `${w.of}.*`);

const has = (shape: RegisterShape, column: string): boolean => shape.columns.some((c) => c.id === column);

const one = (registers: Registers, key: string): RegisterShape[] => (registers[key] ? [registers[key]] : []);

/** The registers something is about, and those their links lead to, however far. */
function reached(
  first: ReadonlySet<string>,
  registers: Registers,
  kinds: Surrounding["kinds"],
): RegisterShape[] {
  const keys = new Set<string>();
  const todo = [...first];
  for (let key = todo.pop(); key !== undefined; key = todo.pop()) {
    if (keys.has(key)) continue;
    keys.add(key);
    for (const c of registers[key]?.columns ?? [])
      todo.push(...(kinds.fields[c.kind].links?.registers(c) ?? []));
  }
  return [...keys].flatMap((key) => one(registers, key));
}

const columnsNamed = (shape: RegisterShape, name: string): string[] =>
  shape.columns.filter((c) => c.name === name).map((c) => c.id);

/** The columns an entry of a record hangs on: what it is called hangs on those that name it. */
function columnsCalled(shape: RegisterShape, entry: string): string[] {
  if (entry === "*") return shape.columns.map((c) => c.id);
  const named = columnsNamed(shape, entry);
  return entry === "name" && named.length === 0 ? shape.title : named;
}

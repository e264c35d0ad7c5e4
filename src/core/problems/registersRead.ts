import type { Registers } from "../form";
import { formulaPlaces, placesOf, type ProcessDefinition } from "../route";
import { CheckCache } from "./problem";
import type { CheckAgainst } from "./problems";
import { recordReads } from "./recordReads";

/** What a definition reads of registers, to be kept with its release: ids of columns by the register's key. */
export function columnsRead(
  definition: ProcessDefinition,
  around: Pick<CheckAgainst, "kinds" | "registers">,
): Record<string, string[]> {
  const formulas = formulaPlaces(definition, around);
  const out: Record<string, string[]> = {};
  for (const r of recordReads(
    definition,
    placesOf(definition, around.kinds),
    around,
    formulas,
    new CheckCache(),
  ))
    out[r.register] = [...new Set([...(out[r.register] ?? []), ...r.columns])].sort();
  return out;
}

/**
 * The registers with the columns that any of some definitions reads, and those that name a record: what has to be fetched
 * of records for their formulas. A formula that asks for more is told that it was not read (`PartlyRead`).
 * @param read of each definition, as `columnsRead` tells it
 */
export function registersRead(
  registers: Registers,
  read: readonly Readonly<Record<string, readonly string[]>>[],
): Registers {
  const out: Record<string, Registers[string]> = {};
  for (const shape of Object.values(registers)) {
    const wanted = new Set([...shape.title, ...read.flatMap((r) => r[shape.key] ?? [])]);
    out[shape.key] = { ...shape, columns: shape.columns.filter((c) => wanted.has(c.id)) };
  }
  return out;
}

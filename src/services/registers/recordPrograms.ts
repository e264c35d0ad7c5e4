import { recordProgram, type RecordProgram } from "@/core/records";
import type { Registers } from "@/core/form";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";

/** What registers come to, kept as long as their shapes are. */
const kept = new WeakMap<Registers, Map<string, RecordProgram>>();

/** A register with its formulas ready; undefined where there is none of this key. */
export function recordProgramOf(d: Directory, register: string): RecordProgram | undefined {
  const shape = Object.hasOwn(d.registers, register) ? d.registers[register] : undefined;
  if (!shape) return undefined;
  let all = kept.get(d.registers);
  if (!all) kept.set(d.registers, (all = new Map()));
  let program = all.get(register);
  if (!program) all.set(register, (program = recordProgram(shape, { registers: d.registers, kinds: KINDS })));
  return program;
}

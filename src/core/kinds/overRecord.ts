import { YESNO } from "../expression";
import type { Registers } from "../form";
import type { FormulaWalk, Reads } from "./places";
import type { Say } from "./say";

/** What a start by a record asks of it, and what it fills in from it. */
interface OverRecord {
  register: string;
  when?: string;
  values: { field: string; value: string }[];
}

/** The formulas of a start over a record: what must hold of it, and what its values fill in. */
export const formulasOverRecord = <S extends OverRecord>(s: S, walk: FormulaWalk, reads: Reads): S => ({
  ...s,
  ...(s.when === undefined
    ? {}
    : {
        when: walk.formula(
          { place: "when", says: "what must hold of the record", wants: YESNO, reads },
          s.when,
        ),
      }),
  values: s.values.map((v) => ({
    ...v,
    value: walk.formula(
      { place: `value ${v.field}`, says: "what a field begins with", wants: { field: v.field }, reads },
      v.value,
    ),
  })),
});

/** Says so where there is no such register, or none was chosen. @param choose "Say of which register …" */
export function sayNoRegister(register: string, registers: Registers, choose: string, say: Say): void {
  if (!Object.hasOwn(registers, register))
    say("error", "no-register", register ? `There is no register "${register}".` : choose, "register");
}

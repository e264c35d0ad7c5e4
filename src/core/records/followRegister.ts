import { renameInFormula, YESNO, type NamesHere, type Type } from "../expression";
import { fieldType, recordScope, type FormSurrounding, type Registers, type RegisterShape } from "../form";
import { columnsCalled } from "./columnsCalled";
import { ruleScope } from "./recordForm";

/** A formula of which it cannot be told what it would read, in words where it stands. */
export interface UnclearFormula {
  says: string;
  formula: string;
  why: string;
}
type Kinds = FormSurrounding["kinds"];

/** Names a formula over records of a register reads, and which column each of them is. */
function namesOf(key: string, around: FormSurrounding, rules: boolean, type?: Type): NamesHere {
  const shape = around.registers[key]!;
  return {
    scope: (rules ? ruleScope : recordScope)(shape, around),
    declared: (name) => {
      const column = shape.columns.find((c) => c.name === name);
      return column ? `column ${key} ${column.id}` : null;
    },
    ...(type ? { type } : {}),
  };
}

/**
 * Another register with its formulas reading columns by what they are called now. One of which that cannot be told stays
 * as it is, and the first of them is told.
 * @param before the registers as they were called, with this one among them
 */
export function followRegister(
  shape: RegisterShape,
  before: Registers,
  after: Registers,
  kinds: Kinds,
): { shape: RegisterShape; unclear: UnclearFormula | null } {
  const { renamed } = columnsCalled(before, after);
  if (renamed.length === 0) return { shape, unclear: null };
  let unclear: UnclearFormula | null = null;
  const rewrite = (formula: string, says: string, rules: boolean, type?: Type): string => {
    const here = (registers: Registers) => namesOf(shape.key, { registers, kinds }, rules, type);
    const r = renameInFormula(formula, here(before), here(after), renamed);
    if ("text" in r) return r.text;
    unclear ??= { says, formula, why: r.unclear.why };
    return formula;
  };
  const typeOf = (id: string): Type | undefined => {
    const c = shape.columns.find((x) => x.id === id);
    return c && fieldType(c, { registers: before, kinds }, 1);
  };
  const columns = shape.columns.map((c) => {
    const type = typeOf(c.id);
    return {
      ...c,
      ...(c.worked ? { worked: rewrite(c.worked, `how “${c.name}” is worked out`, false, type) } : {}),
      ...(c.starting ? { starting: rewrite(c.starting, `what “${c.name}” begins with`, false, type) } : {}),
    };
  });
  const rules = shape.rules?.map((r, i) => ({
    ...r,
    when: rewrite(r.when, `the condition of rule ${i + 1}`, true, YESNO),
    then:
      r.then.do === "set"
        ? {
            ...r.then,
            value: rewrite(r.then.value, `what rule ${i + 1} sets`, true, typeOf(r.then.column)),
          }
        : r.then,
  }));
  const next = { ...shape, columns, ...(rules ? { rules } : {}) };
  return { shape: JSON.stringify(next) === JSON.stringify(shape) ? shape : next, unclear };
}

/** A condition over the records of a register by what columns are called now; null where that cannot be told. */
export function followCondition(
  condition: string,
  register: string,
  before: Registers,
  after: Registers,
  kinds: Kinds,
): string | null {
  const here = (registers: Registers) => namesOf(register, { registers, kinds }, false, YESNO);
  const r = renameInFormula(condition, here(before), here(after), columnsCalled(before, after).renamed);
  return "text" in r ? r.text : null;
}

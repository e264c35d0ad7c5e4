import { checkFormula, compile, parseFormula, type Program, type Scope } from "../expression";
import {
  compileForm,
  prepareForm,
  recordScope,
  recordType,
  type Column,
  type Field,
  type FormProgram,
  type FormSurrounding,
  type PreparedForm,
  type RegisterRule,
  type RegisterShape,
} from "../form";

/** A column as a field of a form: a record is filled in, checked and worked out as a form is. */
export const fieldOfColumn = (c: Column): Field => ({
  id: c.id,
  name: c.name,
  kind: c.kind,
  ...(c.help ? { help: c.help } : {}),
  ...(c.needed ? { needed: "true" } : {}),
  ...(c.options ? { options: c.options } : {}),
  ...(c.register === undefined ? {} : { register: c.register }),
  ...(c.registers === undefined ? {} : { registers: c.registers }),
  ...(c.worked ? { worked: c.worked } : {}),
  ...(c.starting && !c.worked ? { starting: c.starting, hand: "in" as const } : {}),
});
export const fieldsOfRegister = (shape: RegisterShape): Field[] => shape.columns.map(fieldOfColumn);

/** The record as it was, in rules and starts: empty where there was none. */
export const BEFORE = "Before";

/** What rules of a register may read: its columns as they would be, and the record as it was. */
export const ruleScope = (shape: RegisterShape, around: FormSurrounding): Scope => ({
  ...recordScope(shape, around),
  [BEFORE]: recordType(shape.key, around),
});

/** Whether a condition asks for the record as it was. */
export const readsBefore = (when: string): boolean =>
  checkFormula(when, {}).reads.references.some((r) => r.name === BEFORE);

interface RuleProgram {
  rule: RegisterRule;
  /** Absent where the formula has a mistake: such a rule holds up every write it is asked about. */
  when: Program | null;
  value: Program | null;
}

/** A register ready to have records decided; keep it as long as the shapes of registers stay the same. */
export interface RecordProgram {
  shape: RegisterShape;
  prepared: PreparedForm;
  form: FormProgram;
  rules: readonly RuleProgram[];
}

/** Parses what a register has of formulas. Mistakes are `registerProblems`' to tell. */
export function recordProgram(shape: RegisterShape, around: FormSurrounding): RecordProgram {
  const prepared = prepareForm(fieldsOfRegister(shape), around).form;
  const scope = ruleScope(shape, around);
  const program = (text: string): Program | null => {
    const { ast } = parseFormula(text, scope);
    return ast ? compile(ast) : null;
  };
  return {
    shape,
    prepared,
    form: compileForm(prepared, around.kinds.fields),
    rules: (shape.rules ?? []).map((rule) => ({
      rule,
      when: program(rule.when),
      value: rule.then.do === "set" ? program(rule.then.value) : null,
    })),
  };
}

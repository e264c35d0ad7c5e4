import { compile, parseFormula, type Node, type Program } from "../expression";
import {
  compileForm,
  flatFields,
  prepareForm,
  type FormProgram,
  type PreparedForm,
  type Registers,
} from "../form";
import { accessAt, placesOf, routeFormulas, START, type ProcessDefinition, type StepPlace } from "../process";
import type { AccessOf } from "../form";

export interface CompiledFormula {
  text: string;
  ast: Node;
  program: Program;
}

/** A definition ready to run: formulas compiled once, steps found by id. Shared by all requests on it. */
export interface CompiledRelease {
  definition: ProcessDefinition;
  registers: Registers;
  prepared: PreparedForm;
  form: FormProgram;
  places: ReadonlyMap<string, StepPlace>;
  /** By step id, place and text: the same text may read different names in different places. */
  formula(step: string, place: string, text: string): CompiledFormula | null;
  access(step: string): AccessOf;
  /** Names of the fields that hold money. */
  money: ReadonlySet<string>;
}

/** Compiles a definition. One with problems still compiles: a formula with a mistake comes to nothing. */
export function compileRelease(definition: ProcessDefinition, registers: Registers): CompiledRelease {
  const prepared = prepareForm(definition.fields, registers).form;
  const formulas = new Map<string, CompiledFormula>();
  for (const f of routeFormulas(definition, registers)) {
    const { ast } = parseFormula(f.formula, f.scope);
    if (ast)
      formulas.set(`${f.step}|${f.place}|${f.formula}`, { text: f.formula, ast, program: compile(ast) });
  }
  const accesses = new Map<string, AccessOf>();
  return {
    definition,
    registers,
    prepared,
    form: compileForm(prepared),
    places: placesOf(definition),
    money: new Set(flatFields(definition.fields).flatMap((f) => (f.kind === "money" ? [f.name] : []))),
    formula: (step, place, text) => formulas.get(`${step}|${place}|${text}`) ?? null,
    access: (step) => {
      let a = accesses.get(step);
      if (!a) accesses.set(step, (a = accessAt(definition, step)));
      return a;
    },
  };
}

export { START };

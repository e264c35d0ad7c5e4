export type { Node } from "./ast";
export { checkFormula, nearest, type CheckedFormula } from "./check";
export { compile, environment, evaluate, DEFAULT_FUEL, type Env, type Names, type Program } from "./compile";
export { FUNCTIONS, type Surroundings } from "./functions";
export { MAX_NAME_LENGTH, nameMistake, renameInFormula } from "./names";
export { nameUses, type NameUse } from "./uses";
export { isNum, Num, roundMoney, toNum } from "./numbers";
export { MAX_FORMULA_LENGTH, parseFormula } from "./parse";
export type { FormulaProblem } from "./problem";
export * from "./types";
export {
  isContext, isDate, isDateTime, isDuration, isList, valueText, type ContextValue, type Value,
} from "./values";
export { explain, type Clause } from "./why";
export { dateFrom, dateTimeFrom } from "./literals";

export { asksClock } from "./asksClock";
export { childNodes, type Node } from "./ast";
export { checkFormula, type CheckedFormula } from "./check";
export { compile, evaluate, type Program } from "./compile";
export { evaluateText, fromPlain, type TextResult } from "./evaluateText";
export { SECTIONS, type FormulaFunction } from "./functions";
export { nameMistake } from "./names";
export { otherMeaning } from "./otherMeaning";
export { renameInFormula, rewriteNames, type NamesHere, type Renamed, type Renaming } from "./rename";
export type { Reads, Reference, Target, WholeUse } from "./resolve";
export { completionsAt, signature, type Completion, type Completions } from "./complete";
export { emptyBecause, type IsFilled } from "./emptiness";
export { isNum, Num, roundMoney, toNum } from "./numbers";
export {
  formulaOf,
  RELATIONS,
  relationsFor,
  rowMistake,
  rowNames,
  rowsOf,
  standsAlone,
  typeAt,
  type ConditionRow,
  type ConditionRows,
  type Relation,
} from "./rows";
export { readLogic } from "./ownLogic";
export { grammarFor, INPUT, parseFormula, type Dialect } from "./parse";
export { noteUnclear, TooHeavy } from "./meter";
export type { FormulaProblem } from "./problem";
export { environment, type Env, type Names } from "./run";
export { sqlCondition, type SqlColumn, type SqlColumns, type SqlCondition } from "./sql";
export type { Surroundings } from "./surroundings";
export { braceMistakes, formulaStart, mapTemplate, templateParts } from "./template";
export { readText } from "./readText";
export { templateText } from "./templateText";
export { isSumCall, valueInText } from "./valueInText";
export { checkTemplate, templateCompletions } from "./templateCheck";
export { saidValue, trace, type TraceLine } from "./trace";
export * from "./types";
export {
  compareValues,
  equalValues,
  Entity,
  PartlyRead,
  isContext,
  isDate,
  isDateTime,
  isList,
  isTime,
  Unreachable,
  valueText,
  type ContextValue,
  type Value,
} from "./values";
export { explain, explainOver, readsInWords, type Clause } from "./why";
export { durationFrom, isDaysTime } from "./durations";
export { dateFrom, dateTimeFrom, epochOf, timeFrom } from "./moments";
export { momentOnTheClock, timeOfDay } from "./onTheClock";
export { atLiteral } from "./operators";

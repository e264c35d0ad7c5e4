// What a browser loads of the formula core when somebody starts to write: grammar, types, decimals, functions,
// completion. Rows, "why?" and the reference are chunks of their own, loaded when they are opened.
export {
  checkFormula,
  compile,
  completionsAt,
  emptyBecause,
  environment,
  evaluate,
  grammarFor,
  saidValue,
  typeInWords,
} from "../../src/core/expression";

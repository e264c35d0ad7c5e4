export * from "./sheetPlan";
export { guessDates, guessDecimal, doubtfulDate } from "./guessReading";
export { guessMatches } from "./guessMatches";
export { planRow, type PlanContext, type PlannedRow, type RowMistake } from "./planRow";
export { storedText, type IdNames } from "./storedText";
export { guessKind, type GuessedKind } from "./guessKind";

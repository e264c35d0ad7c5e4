export * from "./field";
export * from "./registerShape";
export { factsFrom, holdersOf, personValue, scalarValue, type Facts, type FactsData, type OfficeFacts, type PersonFacts } from "./facts";
export { columnScope, fieldType, formScope, recordScope, recordType, REQUEST_SCOPE, type Registers } from "./formScope";
export { fieldFormulas, prepareForm, scopeOfField, type FieldFormulaProblem, type FormulaPlace, type PreparedForm } from "./prepare";
export { compileForm, evaluateForm, stored, type Access, type AccessOf, type FormProblem, type FormProgram, type FormResult } from "./evaluate";
export { mergeEdits, withoutHidden, withoutHiddenFields } from "./merge";
export { formForReader, type ReaderForm } from "./forReader";
export { fieldsFromRows, tidyName } from "./guess";

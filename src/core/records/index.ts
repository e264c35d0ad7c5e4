export { decideRecord, type RecordDecision, type RecordValues } from "./decideRecord";
export {
  BEFORE,
  fieldOfColumn,
  fieldsOfRegister,
  recordProgram,
  ruleScope,
  type RecordProgram,
} from "./recordForm";
export { registerProblems, type RegisterProblem } from "./registerProblems";
export type { Must, Pointing, RecordChange, RecordWrite, WriteRefusal, Wrote } from "./recordWrite";

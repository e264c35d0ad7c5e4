export { decideRecord, type RecordDecision } from "./decideRecord";
export {
  BEFORE,
  fieldOfColumn,
  fieldsOfRegister,
  recordProgram,
  ruleScope,
  type RecordProgram,
  readsBefore,
} from "./recordForm";
export { columnsCalled } from "./columnsCalled";
export {
  cameNear,
  comesNear,
  isCounted,
  daysOn,
  timeBefore,
  timeCome,
  timeOfKind,
  type NearDate,
} from "./dateStart";
export type { FilledByRecord, OfDates, OfEach, OfPress, OfRecords } from "./ofRecords";
export { followCondition, followRegister } from "./followRegister";
export { filledBy, recordStartProgram, startsBy, type RecordStartProgram } from "./recordStart";
export { registerProblems, type RegisterProblem } from "./registerProblems";
export type {
  Fill,
  Must,
  Pointing,
  RecordChange,
  RecordValues,
  RecordWrite,
  WriteRefusal,
  Wrote,
} from "./recordWrite";
export { reworked } from "./reworked";
export { shapeChange, withNewNames, type ShapeChange } from "./shapeChange";
export { DAYS_AHEAD, type StartingRecord, type StartPreview } from "./startPreview";

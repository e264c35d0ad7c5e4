export { bindingFormulas, bindingProblems, givenBy, outdatedProblems, valuesGiven } from "./binding";
export { mapRules } from "./mapRules";
export {
  broken,
  DEEPEST_CALL,
  MOST_HANDED,
  portsOf,
  type Binding,
  type LiveProcedure,
  type Port,
  type Ports,
} from "./ports";
export {
  ruleKind,
  rungKind,
  startKind,
  isEmptyRule,
  isHeading,
  isReadByName,
  stepKind,
  type AnyRule,
  type AnyRung,
  type AnyStart,
  type Kinds,
} from "./kinds";
export { neverPlace, type FormulaWalk, type Reads, type Spot, type Wants } from "./places";
export type { Called, CallToGo, Next, RoundsToGo, NewsWords, TrailNames, TrailWords } from "./next";
export type { OfficeFacts, RuleBehaviour, RuleNames, RuleProblems, RuleTurn } from "./ruleBehaviour";
export type { RungBehaviour, RungDeed, RungTurn } from "./rungBehaviour";
export type { Mend, Say } from "./say";
export { fillsProblems } from "./fillsProblems";
export { formulasOverRecord, sayNoRegister } from "./overRecord";
export { mapSent, sentProblems } from "./afterSending";
export { audienceWords, mayBegin, sayEmptyAudience } from "./audience";
export type { Asker, DaysOf, OfMail, OfOpen, StartBehaviour } from "./startBehaviour";
export { ANY_TYPES } from "./stepBehaviour";
export type {
  AnyLists,
  AnyStep,
  Exit,
  ListHolder,
  ReasonWords,
  Reply,
  RoundName,
  RoundTypes,
  StepAsks,
  StepBehaviour,
  StepLists,
  StepProblems,
  Woken,
} from "./stepBehaviour";
export type { Kept, KeptRecords, StoredValue } from "./kept";
export type { SignedPaper } from "./signedPaper";
export type { Held, StepTurn } from "./stepTurn";
export { distinctReceivers, receiversIn, type Receiver } from "./receiver";
export { idsIn, idsOf, nameOf } from "./values";
export type { FieldBehaviour, FieldKinds, FieldProperties, TypedField, ValueFacts } from "../form";

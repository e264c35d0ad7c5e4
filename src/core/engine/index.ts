export { answersOf, choicesOf } from "./answer";
export { decide, decideAndName, type Decision } from "./decide";
export { projections, type Projections } from "./projections";
export {
  allTasks,
  BETWEEN,
  inCall,
  levelOf,
  levelsOf,
  outsideId,
  releaseAt,
  splitCall,
  type Level,
} from "./callIds";
export {
  NONE_READ,
  NO_PROCEDURES,
  proceduresFrom,
  soughtAs,
  type Procedures,
  type ProceduresRead,
} from "./facts";
export { formOf } from "./formOf";
export { backTo } from "./backTo";
export { evolve, replay } from "./evolve";
export { forgetEvents, personalFields, type Forgetting } from "./forget";
export { compileRelease, type CompiledFormula, type CompiledRelease } from "./release";
export { ladderDates, calendarFor, type LadderDates } from "./ladder";
export {
  documentWritten,
  firstThing,
  limitReached,
  letterWritten,
  peopleFound,
  sleepsUntil,
  whoWouldBeAsked,
  whyAsked,
  workAsked,
} from "./forViews";
export { ruleWords } from "./ruleWords";
export { newsOf, taskOf, type News, type NewsFacts, type NewsKind } from "./news";
export { waysOn } from "./ownerDeeds";
export { aboutOf, dueOf, heldBy, isForParts, joinParts, partsChanged, type Part } from "./parts";
export { tryForAll, type TriedStep } from "./tryForAll";
export type { RuleTried, Tried } from "./candidates";
export { loadsKey, NeedsLoads, type Load, type LoadsAsked } from "./loads";
export { turnsGiven, type TurnGiven } from "./turnsGiven";
export { NeedsWhole } from "./needsWhole";
export { outsiderName, outsiderOf } from "./outsiders";
export { SAID } from "./questions";
export { spanLimit } from "./spans";
export { Turn, type At } from "./turn";
export { handedIn } from "./handedIn";
export { valuesBack } from "./readyCall";
export { itemOf } from "./rounds";
export { roundText, roundWords } from "./roundText";
export { itemsRead, scopesTouched, type Touching } from "./scopesTouched";
export { recordsIn, withFiles } from "./storedValue";
export { sampleAt } from "./sampleAt";
export { afterSending, sentOf, type Sent } from "./afterSending";
export { stageNow } from "./stageNow";
export { sampleTurn } from "./sampleTurn";
export { colleagueValues } from "./colleagueValues";
export type { EngineFacts } from "./facts";
export type { Command, Given, Refusal } from "./commands";
export type { AnewChange, SeenAnew } from "./readAnew";
export { givenData, startAccess } from "./begin";
export type { Effect, EffectOf } from "./effects";
export type { EffectResult, EventBody, Gone, RequestEvent } from "./events";
export * from "./state";
export { DEFAULT_CALENDAR, engineFacts, type OfficeData } from "./office";
export { samplePath, sampleWalk, type SampleAnswer, type SamplePath } from "./samplePath";
export { valuesAfter, type ValueAfter } from "./valuesAfter";

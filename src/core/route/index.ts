export { handsOver, proceduresCalled } from "./proceduresCalled";
export { takenType } from "./portType";
export { filledByStarts } from "./filledByStarts";
export { isHandedTo, letsBegin, mayBegin } from "./handedTo";
export * from "./definition";
export { MOST_COPIES, OUTLET_SAYS, OUTLETS, type Outlet } from "./outlet";
export type { Listed } from "./listed";
export {
  branchesAround,
  firstAt,
  following,
  heldBy,
  letter,
  listGoesOn,
  listsOf,
  placesOf,
  withLists,
  type Owner,
  type StepList,
  type StepPlace,
} from "./tree";
export { stagesOf, type Stages } from "./stages";
export { flowOf, standBeside, type Flow } from "./flow";
export { usesOf, type Named, type Use } from "./usesOf";
export { usesOfField, type FieldUse } from "./usesOfField";
export { comesWithout } from "./comesWithout";
export { renameFields } from "./renameFields";
export { accessAt, handedAccess, heldAccess, readOnly, widest } from "./access";
export {
  formulaPlaces,
  mapFormulas,
  templatePlaces,
  type FormulaPlace,
  type TemplatePlace,
} from "./formulaPlaces";
export { tagPlace } from "./documentFormulas";
export { documentsUsed } from "./documentsUsed";
export { letterPlace } from "./letterFormulas";
export { tidy } from "./neighbours";
export { laddersUsed, rungsOfStep } from "./laddersUsed";
export { lettersOf, lettersUsed } from "./lettersUsed";
export type { Edit, EditRefusal, EditResult, HeldList, ListRef, Patch } from "./edit";
export { applyEdit } from "./applyEdit";
export { columnNames, followColumns, registersCalled, registersKnown } from "./followColumns";
export { touchesOf, meet, type Touch } from "./editTouches";
export {
  rebaseEdits,
  withoutPaths,
  type EditClash,
  type RebasedEdits,
  type RefusedHere,
} from "./rebaseEdits";
export { idMistakes, idSentence, type IdMistake } from "./idMistakes";
export { differences, breaksCallers, nextVersion, type Difference } from "./difference";
export { ALL_ANSWERS, RouteScopes, SIGNED_DOCUMENT, textOwner } from "./routeScopes";
export type { FormulaOwner, Surrounding } from "./surrounding";

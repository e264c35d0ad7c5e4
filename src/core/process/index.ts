export * from "./definition";
export {
  branchesAround,
  following,
  letter,
  listsOf,
  placesOf,
  withLists,
  type Owner,
  type StepList,
  type StepPlace,
} from "./route";
export { accessAt, readOnly, widest } from "./access";
export { mapStepFormulas, routeFormulas, routeScope, type RouteFormula } from "./formulas";
export { applyEdit, type Edit, type EditRefusal, type EditResult, type ListRef } from "./edit";
export { CheckCache, officeFactsOf, type OfficeFacts, type Problem } from "./problem";
export { problemsOf } from "./problems";
export { differences, nextVersion, type Difference } from "./difference";

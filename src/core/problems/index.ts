export { columnsRead, problemsOf, type CheckAgainst } from "./problems";
export { CheckCache, officeFactsOf, type Problem } from "./problem";
export type { Sight } from "./sightProblems";

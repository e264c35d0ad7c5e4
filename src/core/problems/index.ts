export { problemsOf, type CheckAgainst } from "./problems";
export { CheckCache, officeFactsOf, type Problem } from "./problem";

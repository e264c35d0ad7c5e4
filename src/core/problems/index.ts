export { problemsOf, type CheckAgainst } from "./problems";
export { peopleMissing, type PeopleMissing } from "./peopleMissing";
export { columnsRead, registersRead } from "./registersRead";
export { CheckCache, officeFactsOf, type Problem } from "./problem";
export type { MailTaker } from "./mailStartProblems";
export type { Sight } from "./sightProblems";

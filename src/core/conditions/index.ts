export { exampleText, writtenValue, type Domain } from "./samples";
export { askedValue, conditionFor, waysFor, type AskedValue } from "./askedValue";
export { coverage } from "./coverage";
export { domainOf } from "./domain";

export { exampleText, holdsFor, samplesFor, singleName, type Domain, type SingleName } from "./samples";
export { coverage, type Coverage } from "./coverage";
export { domainOf } from "./domain";

export { exampleText } from "./samples";
export { coverage } from "./coverage";
export { domainOf } from "./domain";

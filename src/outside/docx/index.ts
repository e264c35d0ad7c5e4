export { firstDocx } from "./firstDocx";
export type { ClosingEntry, ClosingPage } from "./closingPage";
export { fillDocx, type Filling, type Picture } from "./fillDocx";
export { NotDocx } from "./openDocx";
export { readDocx, writeTags, type ReadTemplate } from "./readDocx";
export { MaxXmlDepthError as TooDeep } from "easy-template-x";

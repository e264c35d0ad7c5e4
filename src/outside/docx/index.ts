export { firstDocx } from "./firstDocx";
export { fillDocx, type Filling, type Picture } from "./fillDocx";
export { NotDocx } from "./openDocx";
export { readDocx, writeTags, type ReadTemplate } from "./readDocx";

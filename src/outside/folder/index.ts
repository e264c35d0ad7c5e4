export { ContentFolder, Damaged, NotThere } from "./contentFolder";

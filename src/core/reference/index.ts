export { REFERENCE } from "./functions";

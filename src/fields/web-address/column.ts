export { plainTextColumn as column } from "../column";

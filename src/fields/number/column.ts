export { decimalColumn as column } from "../column";

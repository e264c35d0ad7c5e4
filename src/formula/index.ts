export { FormulaField, type FormulaFieldProps } from "./FormulaField";

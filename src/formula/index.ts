export { FormulaField, type FormulaFieldProps } from "./FormulaField";
export { TemplateField, type TemplateFieldProps } from "./TemplateField";

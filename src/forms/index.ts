export { FormView, type FormViewProps } from "./FormView";
export { shownValue } from "./FieldInput";
export type { LookUp } from "./inputContext";
export { Picker, type Option } from "./Picker";
export { useEvaluation, type FormSource } from "./useEvaluation";

export { FormView, type FormViewProps } from "./FormView";
export { shownValue, type LookUp } from "./FieldInput";
export { Picker, type Option } from "./Picker";
export { useEvaluation, type FormSource } from "./useEvaluation";

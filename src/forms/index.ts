export { Leading, shownValue } from "./FieldInput";
export { FormView, type FormViewProps } from "./FormView";
export type { InputContext, LookUp } from "./inputContext";
export { Picker, type Option } from "./Picker";
export { type FormSource } from "./useEvaluation";
export { sendFile } from "./sendFile";

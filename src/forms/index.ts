export { Leading, shownValue } from "./FieldInput";
export { Prose } from "./Prose";
export { FormView, type FormViewProps } from "./FormView";
export type { FormAsk, InputContext, LookUp } from "./inputContext";
export { Picker, type Option } from "./Picker";
export { type FormSource } from "./useEvaluation";
export { FilesAtProvider, type FilesAt } from "./filesAt";
export { FileLink } from "./FileLink";
export { sendFile } from "./sendFile";

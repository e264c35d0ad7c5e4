export { FileInput } from "./FileInput";
export { inputLook } from "./inputLook";
export type { InputContext, LookUp } from "./inputContext";
export { readAt, useFilesAt } from "./filesAt";
export { sendFile } from "./sendFile";
export { NumberInput } from "./NumberInput";
export { offeredIn } from "./offered";
export { offeredBy } from "./offeredBy";
export { Picker, type Option } from "./Picker";

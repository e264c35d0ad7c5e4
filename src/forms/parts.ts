export { FileInput } from "./FileInput";
export { inputLook } from "./inputLook";
export type { InputContext, LookUp } from "./inputContext";
export { matches, MOST_SHOWN, NOTHING_OFFERED } from "./offered";
export { Picker, type Option } from "./Picker";

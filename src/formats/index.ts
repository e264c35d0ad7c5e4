export { EVENT, readEvent } from "./event";
export { PROCESS, readProcess, sentProcess } from "./process";
export { readState, STATE, storedState } from "./state";
export { type Format } from "./versions";

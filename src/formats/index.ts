export { EVENT, readEvent } from "./event";
export { PROCESS, readProcess, sentProcess } from "./process";
export { readPart, readState, STATE, storedPart, storedState } from "./state";
export { type Format } from "./versions";

export { EVENT, readEvent } from "./event";
export { PROCESS, readProcess, upgradeProcess } from "./process";
export { readState, STATE, storedState } from "./state";
export { upgraded, versionOf, type Format } from "./versions";

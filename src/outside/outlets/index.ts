export type { Carried, OutletServer, Taken } from "./outletServer";
export { print, tryPrintRoom } from "./printRoom";
export { putOnShelf, tryShelf } from "./shelf";

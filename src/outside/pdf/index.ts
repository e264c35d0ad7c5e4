export { labelsPdf } from "./labelsPdf";
export { paperPdf } from "./paperPdf";

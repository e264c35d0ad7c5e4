export { paperPdf } from "./paperPdf";

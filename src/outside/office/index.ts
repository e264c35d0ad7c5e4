export { closeOffice, MOST_PAGES, NoPdf, pdfOf } from "./pdfOf";

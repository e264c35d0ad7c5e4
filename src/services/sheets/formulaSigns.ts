/** What a spreadsheet would take for a formula and work out; a number below nothing is none. */
export const FORMULA_SIGNS = /^(?!-?\d+([.,]\d+)*$)[=+\-@\t\r]/;

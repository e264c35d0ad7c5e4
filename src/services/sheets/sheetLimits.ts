/** Rows of one sheet that are brought in at once, besides its headings. */
export const MOST_ROWS = 100_000;
export const MOST_COLUMNS = 300;
/** Characters of one cell. */
export const MOST_CELL = 20_000;
/** What a spreadsheet file may come to once it is unpacked. */
export const MOST_UNPACKED = 300_000_000;

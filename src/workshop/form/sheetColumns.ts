/** The columns of the form sheet, with what each needs at least, in rem, and how much of the room that is left it takes. */
const COLUMNS = [
  { id: "name", says: "Name", least: 11.5, share: 1 },
  { id: "kind", says: "Kind", least: 8.2, share: 0 },
  { id: "needed", says: "Needed", least: 4.8, share: 0 },
  { id: "shown", says: "Shown when", least: 8.5, share: 1 },
  { id: "worked", says: "Worked out as", least: 11, share: 1.25 },
] as const;
/** The last one, for what opens below a row. */
const MORE_REM = 2.3;

export type ColumnId = (typeof COLUMNS)[number]["id"];
/** Widths in pixels, of columns that somebody drew wider or narrower. */
export type ColumnWidths = Readonly<Partial<Record<ColumnId, number>>>;
export const SHEET_COLUMNS = COLUMNS;

/** A column may be this narrow and this wide, in pixels. */
export const WIDTH_LIMITS = { least: 60, most: 900 };
export const clamped = (px: number): number =>
  Math.round(Math.min(Math.max(px, WIDTH_LIMITS.least), WIDTH_LIMITS.most));

/** As CSS: the tracks of a row, and how wide a sheet is at least, beyond which it is scrolled sideways. */
export function sheetTracks(widths: ColumnWidths): { columns: string; width: string } {
  const tracks = COLUMNS.map(({ id, least, share }) => {
    const px = widths[id];
    if (px !== undefined) return `${px}px`;
    return share > 0 ? `minmax(${least}rem, ${share}fr)` : `${least}rem`;
  });
  const least = COLUMNS.map(({ id, least: rem }) =>
    widths[id] === undefined ? `${rem}rem` : `${widths[id]}px`,
  );
  return {
    columns: [...tracks, `${MORE_REM}rem`].join(" "),
    width: `calc(${[...least, `${MORE_REM}rem`].join(" + ")})`,
  };
}

/** Kept widths as they are read: whatever is none of ours is left out. */
export function readWidths(all: Readonly<Record<string, unknown>>): ColumnWidths {
  return Object.fromEntries(
    COLUMNS.flatMap(({ id }) => {
      const px = all[id];
      return typeof px === "number" && Number.isFinite(px) ? [[id, clamped(px)]] : [];
    }),
  );
}

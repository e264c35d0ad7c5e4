/** The least and the greatest width a column is given, in CSS pixels. */
export const WIDTHS = { least: 60, most: 900 } as const;

/** By column, how wide it is; columns that are not named are as wide as they need. */
export type ColumnWidths = Readonly<Record<string, number>>;

const NAMED = /^([a-z][a-z0-9_]{0,39})\.(\d{1,4})$/;

/** Reads widths from an address, "title.240,site.90", whatever stands there. */
export const readWidths = (text: string): ColumnWidths =>
  Object.fromEntries(
    text.split(",").flatMap((part) => {
      const m = NAMED.exec(part);
      return m ? [[m[1]!, within(Number(m[2]))]] : [];
    }),
  );

const within = (px: number): number => Math.round(Math.min(Math.max(px, WIDTHS.least), WIDTHS.most));

/** The address of a view with one column so wide, or as wide as it needs. */
export function widenedView(view: string, column: string, px: number | null): string {
  const q = new URLSearchParams(view);
  const { [column]: _, ...others } = readWidths(q.get("wide") ?? "");
  const widths = px === null ? others : { ...others, [column]: within(px) };
  const text = Object.entries(widths).map(([id, n]) => `${id}.${n}`);
  if (text.length > 0) q.set("wide", text.join(","));
  else q.delete("wide");
  return q.toString();
}

/**
 * Cuts rows into groups of about eight, each of which a browser can leave out while it is out of sight. Where one
 * begins hangs on the id of its first row alone, so that adding or moving a row leaves all other groups what they are
 * and nothing in them is drawn anew. (Counting off every eighth row would shift all groups below.)
 */
export function rowGroups<R>(rows: readonly R[], idOf: (row: R) => string): { key: string; rows: R[] }[] {
  const groups: { key: string; rows: R[] }[] = [];
  for (const row of rows) {
    const id = idOf(row);
    const last = groups.at(-1);
    if (!last) groups.push({ key: "first", rows: [row] });
    else if (begins(id)) groups.push({ key: id, rows: [row] });
    else last.rows.push(row);
  }
  return groups;
}

/** One id in eight, told by its letters alone (FNV-1a). */
function begins(id: string): boolean {
  let h = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) h = Math.imul(h ^ id.charCodeAt(i), 0x01000193);
  return ((h ^ (h >>> 15)) & 7) === 0;
}

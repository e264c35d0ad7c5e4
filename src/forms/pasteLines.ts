import { labelOf, type CellContext, type Field, type Named, type StoredRow } from "@/core/form";
import { FIELDS } from "@/fields/kinds";
import type { InputContext } from "./inputContext";
import { mostRows, nextRowId } from "./linesDeeds";

/** Dates stand as day and month here, and numbers with a point, as everywhere in the app. */
const READING: CellContext["reading"] = { dates: "day", decimal: "." };
/** Names looked for side by side. */
const AT_ONCE = 6;
/** Names told that lead nowhere. */
const MOST_TOLD = 3;

export interface PastedLines {
  rows: StoredRow[];
  /** What was left out and why, in sentences. */
  said: string[];
}

/**
 * Rows with what was pasted from a spreadsheet: from a cell on to the right and down, over what can be filled in; rows
 * that are wanted are added. Names of people and records are looked for; what names nobody, or more than one, stays empty
 * and is said.
 * @param now the rows as they are once all names are known: somebody may have typed meanwhile
 */
export async function pasteLines(
  field: Field,
  now: () => readonly StoredRow[],
  cells: readonly (readonly string[])[],
  from: { row: string; column: number },
  columns: readonly Field[],
  mayFill: (c: Field) => boolean,
  context: Pick<InputContext, "facts" | "lookUp" | "learn">,
): Promise<PastedLines> {
  const most = mostRows(field);
  const named = await namesOf(cells.slice(0, most), from.column, columns, context);
  const rows = now();
  const first = rows.findIndex((r) => r["#"] === from.row);
  // The row went away while names were looked for.
  if (first < 0) return { rows: [...rows], said: [] };
  const at = { row: first, column: from.column };
  const out = rows.map((r) => ({ ...r }));
  const lost: string[] = [];
  let [next, over] = [nextRowId(rows), 0];
  for (const [y, texts] of cells.entries()) {
    if (at.row + y >= most) {
      over++;
      continue;
    }
    const row: StoredRow = out[at.row + y] ?? { "#": String(next++) };
    out[at.row + y] = row;
    for (const [x, text] of texts.entries()) {
      const c = columns[at.column + x];
      if (!c || c.worked || !mayFill(c)) continue;
      const { cell } = FIELDS[c.kind];
      if (!cell) continue;
      const read = cell(c, { text }, { reading: READING, named: (t) => named(c, t) });
      if ("why" in read) lost.push(read.text);
      row[c.id] = "why" in read ? null : read.kept;
    }
  }
  const said: string[] = [];
  if (over > 0)
    said.push(`${labelOf(field)} takes ${most} lines; ${over} of those that were pasted found no place.`);
  if (lost.length > 0) {
    const more = lost.length > MOST_TOLD ? ` and ${lost.length - MOST_TOLD} more` : "";
    const names = lost
      .slice(0, MOST_TOLD)
      .map((t) => `“${t}”`)
      .join(", ");
    said.push(`Nothing, or more than one, is called ${names}${more}; those cells are left empty.`);
  }
  return { rows: out, said };
}

type NamesHere = (c: Field, text: string) => Named;

/** Looks for all that is named in columns of people and records, each name once. */
async function namesOf(
  cells: readonly (readonly string[])[],
  from: number,
  columns: readonly Field[],
  { facts, lookUp, learn }: Pick<InputContext, "facts" | "lookUp" | "learn">,
): Promise<NamesHere> {
  const known = new Map<string, Named>();
  const key = (c: Field, text: string) => `${c.id}\n${text.toLowerCase()}`;
  const asked = new Map<string, { register: string; text: string }>();
  for (const texts of cells)
    for (const [x, raw] of texts.entries()) {
      const c = columns[from + x];
      const text = raw.trim();
      if (!c || text === "" || known.has(key(c, text))) continue;
      if (FIELDS[c.kind].idOf === "person") known.set(key(c, text), personNamed(facts.people, text));
      else if (c.register !== undefined && FIELDS[c.kind].cell && FIELDS[c.kind].idOf === "record")
        asked.set(key(c, text), { register: c.register, text });
    }
  const todo = [...asked];
  while (todo.length > 0)
    await Promise.all(
      todo.splice(0, AT_ONCE).map(async ([of, { register, text }]) => {
        const found = (await lookUp(register, text)).filter(
          (r) => r.title.toLowerCase() === text.toLowerCase(),
        );
        if (found.length === 1) learn(register, found[0]!.record);
        known.set(of, only(found.map((r) => r.id)));
      }),
    );
  return (c, text) => known.get(key(c, text.trim())) ?? { why: "none" };
}

const only = (ids: readonly string[]): Named => {
  if (ids.length === 1) return { id: ids[0]! };
  return { why: ids.length === 0 ? "none" : "several" };
};

const personNamed = (people: InputContext["facts"]["people"], text: string): Named =>
  only(
    Object.values(people)
      .filter((p) => !p.service && p.name.toLowerCase() === text.toLowerCase())
      .map((p) => p.id),
  );

import { ANY } from "../expression";
import { BETWEEN } from "./byLine";
import type { Column, RegisterShape } from "./registerShape";
import { isSaidInALine, type FieldKinds } from "./fieldBehaviour";
import { MAX_TEXT, type Field } from "./field";
import type { ValueMistake } from "./formProblem";

/** Whether what stands in a column can be chosen from: it is text. */
export const mayBeAmong = (c: Column, kinds: FieldKinds): boolean =>
  isSaidInALine(kinds[c.kind]) && kinds[c.kind].type(c, () => ANY).t === "text";

/** The column a field is chosen from, as far as somebody sees it; null for none that holds text. */
export function columnAmong(
  f: Pick<Field, "among">,
  shape: Pick<RegisterShape, "columns"> | undefined,
  kinds: FieldKinds,
): Column | null {
  const column = shape?.columns.find((c) => c.id === f.among?.column);
  return column && mayBeAmong(column, kinds) ? column : null;
}

/** Whether a text of a column is offered: several of those that are chosen stand one a line. */
export const isOneOfAmong = (text: string): boolean =>
  text.trim() !== "" && text.length <= MAX_TEXT && !text.includes(BETWEEN);

/** What is wrong with texts that were chosen from a column, whatever stands in it. */
export function amongMistakes(texts: readonly unknown[]): ValueMistake[] {
  const odd = texts.find((t) => typeof t !== "string" || !isOneOfAmong(t));
  if (odd === undefined) return [];
  if (typeof odd === "string" && odd.length > MAX_TEXT)
    return [{ code: "too-long", data: { value: String(odd.length), limit: String(MAX_TEXT) } }];
  return [{ code: "not-a-text", data: { value: String(odd).slice(0, 40) } }];
}

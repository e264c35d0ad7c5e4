import { flatFields, type Field } from "../form";
import { tagText } from "./readTag";

/** One part of a first template, to be adorned in the word processor. */
export type FirstPart =
  | { part: "heading"; level: 1 | 2; text: string }
  /** What a field is called, and the tag of its value. */
  | { part: "values"; rows: { label: string; tag: string }[] }
  /** A table with a row for each line: the columns' names, and their tags. */
  | { part: "lines"; columns: { label: string; tag: string }[] };

/** Whether a field holds what somebody signs with. */
type Signs = (f: Pick<Field, "kind">) => boolean;

/** Millimetres a picture or a signature is wide. */
const WIDE = 50;

/**
 * What a form has, as a document: a heading for each section, a line for each field, a table for each line items. Texts of
 * a form are for whoever fills it in, and left out.
 */
export function firstTemplate(name: string, fields: readonly Field[], signs: Signs): FirstPart[] {
  const out: FirstPart[] = [{ part: "heading", level: 1, text: name }];
  const value = (f: Field) => {
    const row = { label: f.name, tag: tagOf(f, signs) };
    const last = out.at(-1);
    if (last?.part === "values") last.rows.push(row);
    else out.push({ part: "values", rows: [row] });
  };
  const visit = (list: readonly Field[]): void => {
    for (const f of list) {
      if (f.kind === "text block") continue;
      if (f.kind === "lines") {
        const columns = flatFields(f.fields ?? []);
        if (columns.length === 0) continue;
        out.push({ part: "heading", level: 2, text: f.name });
        out.push({
          part: "lines",
          columns: columns.map((c, i) => ({
            label: c.name,
            tag: `${i === 0 ? tagText({ tag: "each", of: f.name }) : ""}${tagOf(c, signs)}${i === columns.length - 1 ? tagText({ tag: "end" }) : ""}`,
          })),
        });
      } else if (f.fields) {
        out.push({ part: "heading", level: 2, text: f.name });
        visit(f.fields);
      } else value(f);
    }
  };
  visit(fields);
  return out;
}

const tagOf = (f: Field, signs: Signs): string =>
  tagText(signs(f) ? { tag: "picture", of: f.name, mm: WIDE } : { tag: "value", of: f.name });

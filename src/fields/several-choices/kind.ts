import { isList, listOf, valueText } from "@/core/expression";
import {
  amongMistakes,
  BETWEEN,
  byLine,
  joinedByLine,
  MOST_RECORDS,
  optionNamed,
  optionText,
  readsTwice,
  textInCell,
  type ValueMistake,
} from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** What a cell of a sheet holds apart by semicolons or lines, or by commas where no choice has one. */
function inCell(text: string, options: readonly string[]): string[] {
  const by = options.some((o) => o.includes(",")) ? /[;\n]/ : /[;,\n]/;
  return text
    .split(by)
    .map((t) => t.trim())
    .filter(Boolean);
}

/** What is wrong with what was chosen from a column: so many as records are chosen at most. */
function ofColumn(raw: unknown): ValueMistake[] {
  const texts = typeof raw === "string" ? byLine(raw) : [raw];
  const value = String(texts.length);
  return texts.length > MOST_RECORDS
    ? [{ code: "too-many-chosen", data: { value, limit: String(MOST_RECORDS) } }]
    : amongMistakes(texts);
}

/**
 * Any number of several given texts, kept in the order they are offered in; or of those that stand in a column of a
 * register, in the order in which they were picked.
 */
export const severalChoices: FieldBehaviour = {
  type: (f) => listOf(f.options && f.options.length > 0 ? { t: "text", options: f.options } : { t: "text" }),
  value(_, raw) {
    return typeof raw === "string" ? byLine(raw) : null;
  },
  settled(v) {
    // One of them is a list of one, and nothing a list of none.
    return (isList(v) ? v : [v]).filter((x) => x !== null);
  },
  mistakes(f, raw) {
    const options = f.options ?? [];
    if (f.among) return ofColumn(raw);
    const texts = typeof raw === "string" ? byLine(raw) : [String(raw)];
    const odd = texts.find((t) => !options.includes(t));
    if (odd === undefined) return [];
    const limit = options.map((o) => optionText(f, o)).join(", ");
    return [{ code: "not-an-option", data: { value: odd, limit } }];
  },
  problems(f, { say }) {
    if (!f.options?.length && !f.among)
      say("error", "no-options", `"${f.name}" is a choice without anything to choose from.`, "options");
    else if (f.options?.some((o) => o.includes(BETWEEN)))
      say("error", "bad-option", `A choice of "${f.name}" stands on more than one line.`, "options");
    const twice = readsTwice(f);
    if (twice !== null)
      say(
        "error",
        "reads-twice",
        `Two choices of "${f.name}" read “${twice}”; nobody could tell them apart.`,
        "options",
      );
  },
  has: { options: "several values", range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: {
    texts: byLine,
    kept: (of) => joinedByLine(of.map(valueText)),
  },
  filler: null,
  cell(f, cell) {
    const options = f.options ?? [];
    const read = [...options, ...options.map((o) => optionText(f, o))];
    const texts = inCell(textInCell(cell), read).map((t) => optionNamed(f, t));
    // What stands in the column is known where the form is sent.
    if (f.among) return { kept: joinedByLine(inCell(textInCell(cell), [])) };
    const known = options.filter((o) => texts.includes(o));
    const odd = texts.filter((t) => !options.includes(t));
    return { kept: [...known, ...odd].join(BETWEEN) || null };
  },
};

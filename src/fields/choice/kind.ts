import { TEXT } from "@/core/expression";
import { amongMistakes, optionNamed, optionText, readsTwice, textInCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** One of several given texts, or of those that stand in a column of a register. */
export const choice: FieldBehaviour = {
  type: (f) => (f.options && f.options.length > 0 ? { t: "text", options: f.options } : TEXT),
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes(f, raw) {
    if (f.among) return amongMistakes([raw]);
    const options = f.options ?? [];
    if (typeof raw === "string" && options.includes(raw)) return [];
    const limit = options.map((o) => optionText(f, o)).join(", ");
    return [{ code: "not-an-option", data: { value: String(raw), limit } }];
  },
  problems(f, { say }) {
    if (!f.options?.length && !f.among)
      say("error", "no-options", `"${f.name}" is a choice without anything to choose from.`, "options");
    const twice = readsTwice(f);
    if (twice !== null)
      say(
        "error",
        "reads-twice",
        `Two choices of "${f.name}" read “${twice}”; nobody could tell them apart.`,
        "options",
      );
  },
  has: { options: "values", range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell(f, cell) {
    const text = textInCell(cell);
    return { kept: text === "" ? null : optionNamed(f, text) };
  },
};

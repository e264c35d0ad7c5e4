import { TEXT } from "@/core/expression";
import { textInCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** One of several given texts. */
export const choice: FieldBehaviour = {
  type: (f) => (f.options && f.options.length > 0 ? { t: "text", options: f.options } : TEXT),
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes(f, raw) {
    const options = f.options ?? [];
    if (typeof raw === "string" && options.includes(raw)) return [];
    return [{ code: "not-an-option", data: { value: String(raw), limit: options.join(", ") } }];
  },
  problems(f, { say }) {
    if (!f.options?.length)
      say("error", "no-options", `"${f.name}" is a choice without anything to choose from.`, "options");
  },
  has: { options: "values", range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell(f, cell) {
    const text = textInCell(cell);
    const alike = (f.options ?? []).filter((o) => o.toLowerCase() === text.toLowerCase());
    // As it is written in the list, where it is told apart by more than capitals.
    return {
      kept: text === "" || f.options?.includes(text) || alike.length !== 1 ? text || null : alike[0]!,
    };
  },
};

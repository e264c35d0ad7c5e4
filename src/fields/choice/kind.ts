import { TEXT } from "@/core/expression";
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
  has: { options: "values", register: false, range: null, money: false },
  guess: null,
  idOf: null,
  filler: null,
};

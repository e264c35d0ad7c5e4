import { TEXT } from "@/core/expression";
import type { FieldBehaviour } from "@/core/kinds";

/** Something to be read in its place, with values in it; it has no value itself. */
export const textBlock: FieldBehaviour = {
  type: () => TEXT,
  value: () => null,
  settled: (v) => v,
  mistakes: () => [],
  problems(f, { say }) {
    if (!f.text?.trim() && !f.picture) say("warning", "no-text", `"${f.name}" says nothing yet.`, "text");
    if (f.picture && !f.picture.says.trim())
      say(
        "warning",
        "picture-unsaid",
        `Say what the picture of "${f.name}" shows, for whoever does not see it.`,
        "picture",
      );
  },
  has: { options: null, range: null, money: false },
  guess: null,
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: null,
};

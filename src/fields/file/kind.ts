import { FILE, isContext } from "@/core/expression";
import { endingProblems, fileMistakes, MAX_FILE_MB } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** One file, by its id. */
export const file: FieldBehaviour = {
  type: () => FILE,
  value: (_, raw, facts) => (typeof raw === "string" ? facts.file(raw) : null),
  settled: (v) => v,
  mistakes(f, _, v) {
    if (v === null || !isContext(v)) return [{ code: "no-file", data: {} }];
    return fileMistakes(f, String(v.get("name")), Number(String(v.get("size"))));
  },
  problems(f, { say }) {
    if (f.max !== undefined && !(Number(f.max) > 0 && Number(f.max) <= MAX_FILE_MB))
      say(
        "error",
        "bad-size",
        `The largest file is said in MB, more than 0 and at most ${MAX_FILE_MB}, for example 10; "${f.max}" is not.`,
        "max",
      );
    endingProblems(f, say);
  },
  has: { options: "endings", range: "megabytes", money: false },
  guess: {
    words: /\b(file|attachment|photo|picture|scan|pdf|document|upload)\b/i,
    rank: 6,
  },
  idOf: "file",
  links: null,
  many: null,
  filler: null,
  cell: null,
};

import { Entity, FILE, isContext, isList, listOf, valueText } from "@/core/expression";
import {
  byLine,
  endingProblems,
  fileMistakes,
  joinedByLine,
  megabytes,
  MOST_FILES,
  MOST_FILES_MB,
  type ValueMistake,
} from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Any number of files, by their ids, in the order in which they were added. */
export const files: FieldBehaviour = {
  type: () => listOf(FILE),
  // Those that are there; that one is missing is a mistake, so that no form is sent with fewer than it says.
  value: (_, raw, facts) =>
    typeof raw === "string" ? byLine(raw).flatMap((id) => facts.file(id) ?? []) : null,
  settled: (v) => (isList(v) ? v : [v]).filter((x) => x !== null),
  mistakes(f, raw, v) {
    const ids = typeof raw === "string" ? byLine(raw) : [];
    const there = isList(v) ? v.filter(isContext) : [];
    const out: ValueMistake[] = [];
    if (there.length < ids.length || ids.length === 0) out.push({ code: "no-file", data: {} });
    if (ids.length > MOST_FILES)
      out.push({ code: "too-many-files", data: { value: String(ids.length), limit: String(MOST_FILES) } });
    const sizes = there.map((x) => Number(String(x.get("size"))));
    // Each as one file alone; how much all may be is asked below.
    for (const [i, x] of there.entries())
      out.push(
        ...fileMistakes({ ...(f.options ? { options: f.options } : {}) }, String(x.get("name")), sizes[i]!),
      );
    const most = Math.min(Number(f.max ?? MOST_FILES_MB) || MOST_FILES_MB, MOST_FILES_MB);
    const all = sizes.reduce((sum, n) => sum + n, 0);
    if (all > most * 1_000_000)
      out.push({ code: "files-too-large", data: { value: megabytes(all), limit: String(most) } });
    return out;
  },
  problems(f, { say }) {
    if (f.max !== undefined && !(Number(f.max) > 0 && Number(f.max) <= MOST_FILES_MB))
      say(
        "error",
        "bad-size",
        `What all files together may have is said in MB, more than 0 and at most ${MOST_FILES_MB}, for example 40; "${f.max}" is not.`,
        "max",
      );
    endingProblems(f, say);
  },
  has: { options: "endings", range: "megabytes", money: false },
  guess: { words: /\b(files|attachments|photos|pictures|scans|documents|uploads|papers)\b/i, rank: 5 },
  idOf: "file",
  links: null,
  many: {
    texts: byLine,
    kept: (of) => joinedByLine(of.map((v) => (v instanceof Entity && v.of === "file" ? v.id : valueText(v)))),
  },
  filler: null,
  cell: null,
};

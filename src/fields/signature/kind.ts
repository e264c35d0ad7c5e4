import { FILE, isContext } from "@/core/expression";
import { fileMistakes } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** A picture of a few strokes has some kilobytes. */
const PICTURE = { options: ["png"], max: "1" };

/** What somebody signs with: a picture, by its id as a file. Who, when and what for is told by the event that comes with it. */
export const signature: FieldBehaviour = {
  type: () => FILE,
  value: (_, raw, facts) => (typeof raw === "string" ? facts.file(raw) : null),
  settled: (v) => v,
  mistakes(_, __, v) {
    if (v === null || !isContext(v)) return [{ code: "no-file", data: {} }];
    return fileMistakes(PICTURE, String(v.get("name")), Number(String(v.get("size"))));
  },
  problems(f, { say }) {
    const made = f.worked === undefined ? f.starting : f.worked;
    if (made !== undefined)
      say(
        "error",
        "signed-by-nobody",
        `"${f.name}" is a signature: a person gives it, so that it is not worked out and begins empty. Take the formula away.`,
        f.worked === undefined ? "starting" : "worked",
      );
  },
  has: { options: null, range: null, money: false },
  guess: { words: /\b(signature|signed by|autograph)\b/i, rank: 5 },
  idOf: "file",
  signs: true,
  links: null,
  many: null,
  filler: null,
  cell: null,
};

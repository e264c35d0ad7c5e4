import fc from "fast-check";
import { readReply } from "./readReply";

/**
 * Held against a slow reading that goes by words: an answer is read only where the first words, up to a mark or the end of
 * the line, are one answer's and nothing of another answer stands on that line or alone on one below.
 */
const ANSWERS = [
  { id: "yes", label: "Approve", words: "yes, ok, I approve" },
  { id: "no", label: "Decline", words: "no, not approved" },
];
const WORDS: Record<string, string[]> = {
  yes: ["approve", "yes", "ok", "i approve"],
  no: ["decline", "no", "not approved"],
};
const tokens = (s: string): string[] => s.toLowerCase().match(/[a-z]+/g) ?? [];
const containsRun = (all: string[], run: string[]): boolean =>
  all.some((_, i) => run.every((w, k) => all[i + k] === w));

function slow(text: string): string | null {
  const lines = text.split("\n").filter((l) => l.trim() !== "");
  const [first = "", ...below] = lines;
  const head = tokens(first.split(/[.,;:!]/)[0] ?? "").join(" ");
  const of = Object.entries(WORDS).filter(([, words]) => words.includes(head));
  if (of.length !== 1) return null;
  const [id] = of[0]!;
  const rest = tokens(first.slice((first.split(/[.,;:!]/)[0] ?? "").length));
  for (const [other, words] of Object.entries(WORDS)) {
    if (other === id) continue;
    for (const w of words) {
      if (containsRun(rest, w.split(" "))) return null;
      if (below.some((l) => tokens(l).join(" ") === w)) return null;
    }
  }
  return id;
}

const piece = fc.constantFrom(
  "yes",
  "no",
  "ok",
  "approve",
  "decline",
  "not",
  "approved",
  "i",
  "problem",
  "wait",
  "the",
  "wall",
);
const mark = fc.constantFrom(" ", " ", ", ", ". ", ": ", "; ", "! ");
const line = fc.array(fc.tuple(piece, mark), { minLength: 1, maxLength: 5 }).map((ps) =>
  ps
    .map(([p, m]) => p + m)
    .join("")
    .trim(),
);
const text = fc.array(line, { minLength: 1, maxLength: 4 }).map((ls) => ls.join("\n"));

it("decides what the slow reading decides, and nothing else", () => {
  fc.assert(
    fc.property(text, (t) => {
      const read = readReply(t, ANSWERS);
      expect("answer" in read ? read.answer : null).toBe(slow(t));
    }),
    { numRuns: 20_000, endOnFailure: true },
  );
});

it("reads the same in the order in which answers stand, in capitals, and after empty lines", () => {
  fc.assert(
    fc.property(text, (t) => {
      const of = (x: string, answers = ANSWERS) => {
        const read = readReply(x, answers);
        return "answer" in read ? read.answer : null;
      };
      expect(of(t, [...ANSWERS].reverse())).toBe(of(t));
      expect(of(t.toUpperCase())).toBe(of(t));
      expect(of(`\n \n${t}`)).toBe(of(t));
    }),
    { numRuns: 2_000, endOnFailure: true },
  );
});

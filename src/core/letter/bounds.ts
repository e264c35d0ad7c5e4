import type { LetterPart, Run } from "./letter";

/** How much a letter may hold: the schema of what is stored asks the same. */
export const MOST = {
  parts: 200,
  inPart: 60,
  items: 100,
  rows: 60,
  columns: 12,
  runs: 200,
  characters: 10_000,
  /** Conditions within one another. */
  deep: 6,
} as const;

/** Why a letter is too much to be kept, in a sentence; null where it is not. Asked before it is sent, so that nothing is lost. */
export function tooMuch(parts: readonly LetterPart[]): string | null {
  if (parts.length > MOST.parts)
    return `A letter has at most ${MOST.parts} paragraphs; this one has ${parts.length}. Take some out, and it is kept again.`;
  return firstOf(parts, 1);
}

const firstOf = (parts: readonly LetterPart[], depth: number): string | null => {
  for (const p of parts) {
    const why = ofPart(p, depth);
    if (why) return why;
  }
  return null;
};

function ofPart(p: LetterPart, depth: number): string | null {
  switch (p.part) {
    case "paragraph":
    case "heading":
      return ofRuns(p.runs);
    case "list":
      return p.items.length > MOST.items
        ? `A list has at most ${MOST.items} lines; this one has ${p.items.length}. Make two of it.`
        : firstRuns(p.items);
    case "table": {
      const columns = Math.max(...p.rows.map((r) => r.length));
      return p.rows.length > MOST.rows || columns > MOST.columns
        ? `A table has at most ${MOST.rows} rows and ${MOST.columns} columns; this one has ${p.rows.length} and ${columns}. Make two of it, or a row for each thing of a list.`
        : firstRuns(p.rows.flat());
    }
    case "lines":
      return p.columns.length > MOST.columns ? `Rows have at most ${MOST.columns} columns.` : null;
    case "when":
    case "each":
      if (p.part === "when" && depth > MOST.deep)
        return `Conditions stand at most ${MOST.deep} within one another. Say them as one: a and b.`;
      return p.parts.length > MOST.inPart
        ? `At most ${MOST.inPart} paragraphs stand in one frame; this one has ${p.parts.length}. Make two frames of it.`
        : firstOf(p.parts, depth + 1);
  }
}

const firstRuns = (all: readonly (readonly Run[])[]): string | null => {
  for (const runs of all) {
    const why = ofRuns(runs);
    if (why) return why;
  }
  return null;
};

const ofRuns = (runs: readonly Run[]): string | null =>
  runs.length > MOST.runs || runs.some((r) => "text" in r && r.text.length > MOST.characters)
    ? `A paragraph has at most ${MOST.characters} characters and ${MOST.runs} changes of its look. Make two of it.`
    : null;

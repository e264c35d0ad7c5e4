import { ANY, listOf, TEXT, YESNO } from "../expression";
import type { FormulaWalk, Reads } from "../kinds";
import type { Letter, LetterPart, LetterText, Run } from "../letter";

/** Where something of a letter stands: its text by language, then its parts by number: "en 2.0.1". */
export const letterPlace = {
  language: "language",
  subject: (language: string) => `${language} subject`,
  parts: (language: string) => language,
  /** A part, or what stands in one. */
  inside: (at: string, i: number | string) => `${at} ${i}`,
};

/** The letter with every formula passed through a walk; the only place that knows where formulas of letters stand. */
export function mapLetter(letter: Letter, walk: FormulaWalk): Letter {
  return {
    ...letter,
    ...(letter.language === undefined
      ? {}
      : {
          language: walk.formula(
            { place: letterPlace.language, says: "the language it is written in", wants: TEXT },
            letter.language,
          ),
        }),
    texts: letter.texts.map((t) => mapText(t, walk)),
  };
}

function mapText(text: LetterText, walk: FormulaWalk): LetterText {
  return {
    ...text,
    subject: walk.template(
      { place: letterPlace.subject(text.language), says: "the subject of the letter" },
      text.subject,
    ),
    parts: mapParts(text.parts, letterPlace.parts(text.language), walk, "route"),
  };
}

function mapParts<P extends LetterPart>(
  parts: readonly P[],
  at: string,
  walk: FormulaWalk,
  reads: Reads,
): P[] {
  return parts.map((p, i) => mapPart(p, letterPlace.inside(at, i), walk, reads) as P);
}

function mapPart(p: LetterPart, at: string, walk: FormulaWalk, reads: Reads): LetterPart {
  const runs = (list: readonly Run[], place: string): Run[] =>
    list.map((r, i) => {
      const here = letterPlace.inside(place, i);
      const link =
        r.link === undefined
          ? {}
          : {
              link: walk.template(
                { place: letterPlace.inside(here, "link"), says: "where a link leads", reads },
                r.link,
              ),
            };
      return "text" in r
        ? { ...r, ...link }
        : {
            ...r,
            ...link,
            value: walk.formula({ place: here, says: "a value in the letter", wants: ANY, reads }, r.value),
          };
    });
  switch (p.part) {
    case "paragraph":
    case "heading":
      return { ...p, runs: runs(p.runs, at) };
    case "list":
      return { ...p, items: p.items.map((item, i) => runs(item, letterPlace.inside(at, i))) };
    case "table":
      return {
        ...p,
        rows: p.rows.map((row, i) =>
          row.map((cell, j) => runs(cell, letterPlace.inside(letterPlace.inside(at, i), j))),
        ),
      };
    case "lines": {
      const inRow: Reads = { eachOf: p.of, as: p.as };
      return {
        ...p,
        // Before the list: what reads a thing of it is walked with the list as it was.
        columns: p.columns.map((c, i) => ({
          ...c,
          value: walk.formula(
            {
              place: letterPlace.inside(at, i),
              says: `the column “${c.title}” of the letter`,
              wants: ANY,
              reads: inRow,
            },
            c.value,
          ),
        })),
        of: walk.formula(
          {
            place: letterPlace.inside(at, "of"),
            says: "what a row is written for",
            goneThrough: true,
            wants: listOf(ANY),
            reads,
          },
          p.of,
        ),
      };
    }
    case "when":
      return {
        ...p,
        when: walk.formula(
          {
            place: letterPlace.inside(at, "when"),
            says: "when a part of the letter is written",
            wants: YESNO,
            reads,
          },
          p.when,
        ),
        parts: mapParts(p.parts, at, walk, reads),
      };
    case "each":
      return {
        ...p,
        parts: mapParts(p.parts, at, walk, { eachOf: p.of, as: p.as }),
        of: walk.formula(
          {
            place: letterPlace.inside(at, "of"),
            says: "what a part of the letter is repeated for",
            goneThrough: true,
            wants: listOf(ANY),
            reads,
          },
          p.of,
        ),
      };
  }
}

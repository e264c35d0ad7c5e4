import type { DocumentTag, DocumentTemplate } from "../document";
import { ANY, FILE, listOf, YESNO } from "../expression";
import type { FormulaWalk } from "../kinds";

/** Where the formula of a tag stands: tags are told by their number in the file. */
export const tagPlace = (at: number): string => `tag ${at}`;

/** The template with every formula passed through a walk; the only place that knows where formulas of templates stand. */
export function mapDocument(d: DocumentTemplate, walk: FormulaWalk): DocumentTemplate {
  // The lists around a tag, as they were before the walk: what reads a thing of one is walked with that.
  const around: (string | null)[] = [];
  let piece = d.tags[0]?.piece;
  const tags = d.tags.map((t, i): DocumentTag => {
    // What has no end ends with its piece.
    if (t.piece !== piece) around.length = 0;
    piece = t.piece;
    const lists = around.filter((x): x is string => x !== null);
    const reads = lists.length === 0 ? ("route" as const) : { eachIn: lists };
    const place = tagPlace(i);
    switch (t.tag) {
      case "value":
        return {
          ...t,
          of: walk.formula({ place, says: `a value in the template “${d.name}”`, wants: ANY, reads }, t.of),
        };
      case "picture":
        return {
          ...t,
          of: walk.formula(
            { place, says: `a picture in the template “${d.name}”`, wants: FILE, reads },
            t.of,
          ),
        };
      case "each":
        around.push(t.of);
        return {
          ...t,
          of: walk.formula(
            {
              place,
              says: `what a part of the template “${d.name}” is repeated for`,
              goneThrough: true,
              wants: listOf(ANY),
              reads,
            },
            t.of,
          ),
        };
      case "if":
        around.push(null);
        return {
          ...t,
          of: walk.formula(
            { place, says: `when a part of the template “${d.name}” stands there`, wants: YESNO, reads },
            t.of,
          ),
        };
      case "otherwise":
        return t;
      case "end":
        around.pop();
        return t;
    }
  });
  return { ...d, tags };
}

import { mark, type FoundTag } from "./findTags";
import { around } from "./xml";

/** Something that is repeated or left out: the tags it begins and ends with, and the one between them. */
export interface Block {
  open: number;
  /** Of an "if" with another part. */
  otherwise?: number;
  end: number;
}

/** Which tags belong together, by their numbers. Those that belong to none are left out. */
export function blocksOf(tags: readonly Pick<FoundTag, "said" | "piece">[]): Block[] {
  const out: Block[] = [];
  const open: { at: number; otherwise?: number }[] = [];
  let piece: number | undefined;
  for (const [at, t] of tags.entries()) {
    if (t.piece !== piece) open.length = 0;
    piece = t.piece;
    const { tag } = t.said;
    const last = open.at(-1);
    if (tag === "each" || tag === "if") open.push({ at });
    else if (tag === "otherwise" && last && tags[last.at]!.said.tag === "if" && last.otherwise === undefined)
      last.otherwise = at;
    else if (tag === "end" && last) {
      open.pop();
      const { at: opened, ...rest } = last;
      out.push({ open: opened, ...rest, end: at });
    }
  }
  return out;
}

/** The table in whose rows a block stands; null where it stands among paragraphs, "apart" where it can stand in neither. */
export function standsIn(from: Element, to: Element): Element | null | "apart" {
  const [cell, other] = [around(from, "tc"), around(to, "tc")];
  if (cell === other || !cell || !other) return from.parentNode === to.parentNode ? null : "apart";
  const table = around(cell, "tbl");
  return table !== null && table === around(other, "tbl") ? table : "apart";
}

/** The tags that stand where what they belong to does not reach, by their numbers. */
export function tagsApart(tags: readonly FoundTag[]): Set<number> {
  const out = new Set<number>();
  for (const { open, otherwise, end } of blocksOf(tags)) {
    const place = (at: number) => standsIn(tags[open]!.paragraph, tags[at]!.paragraph);
    if (place(end) === "apart") out.add(end);
    else if (otherwise !== undefined && !splits(tags[otherwise]!, otherwise, place(end), place(otherwise)))
      out.add(otherwise);
  }
  return out;
}

/** Whether what stands between two parts can be where it is: in a row of its own where they are rows. */
function splits(
  t: FoundTag,
  at: number,
  block: Element | null | "apart",
  own: Element | null | "apart",
): boolean {
  if (block === null) return own === null;
  const row = around(t.paragraph, "tr");
  return row !== null && around(row, "tbl") === block && holdsOnly(row, mark(at));
}

/** What makes a paragraph more than its text: a picture, a break, the end of a section. */
export const SHOWN = ["w:drawing", "w:pict", "w:object", "w:br", "w:sectPr"] as const;

/** Whether an element shows this text and nothing else. */
export const holdsOnly = (e: Element, text: string): boolean =>
  (e.textContent ?? "").trim() === text && SHOWN.every((name) => e.getElementsByTagName(name).length === 0);

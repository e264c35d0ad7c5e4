import { mark, ownTexts, type FoundTag } from "./findTags";
import { around, within } from "./xml";

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

/**
 * The blocks that are repeated, or left out, as whole rows or whole paragraphs, told by the tags they begin with; the others
 * are words amid a paragraph. Told before anything is filled in: what a value comes to must not make one of the other.
 */
export function wholeBlocks(tags: readonly FoundTag[]): Set<number> {
  const out = new Set<number>();
  const amid: Block[] = [];
  for (const b of blocksOf(tags).sort((x, y) => x.open - y.open)) {
    const [from, to] = [tags[b.open]!, tags[b.end]!];
    const shares = (o: Block) =>
      [tags[o.open]!, tags[o.end]!].some(
        (t) => t.paragraph === from.paragraph || t.paragraph === to.paragraph,
      );
    // What stands in the paragraph of one that is amid it is so as well: its paragraph is cut in two.
    const inOther = amid.some((o) => o.open < b.open && o.end > b.end && shares(o));
    const whole = standsIn(from.paragraph, to.paragraph) !== null || (!inOther && isWhole(tags, b));
    if (whole) out.add(b.open);
    // One paragraph is repeated, or left out, by one block alone.
    if (!whole || from.paragraph === to.paragraph) amid.push(b);
  }
  return out;
}

function isWhole(tags: readonly FoundTag[], { open, otherwise, end }: Block): boolean {
  const [from, to] = [tags[open]!, tags[end]!];
  // Of two parts in one paragraph neither is the whole of it.
  if (otherwise !== undefined && !holdsOnly(tags[otherwise]!.paragraph, mark(otherwise))) return false;
  const shown = (text: string) =>
    text.replace(/\uf8f0(\d+)\uf8f1/g, (m, n) => (isBlockTag(tags[Number(n)]!) ? "" : m)).trim() !== "";
  const textOf = (t: FoundTag) =>
    ownTexts(t.paragraph)
      .map((x) => x.textContent ?? "")
      .join("");
  if (shown(textOf(from).split(mark(open))[0]!) || shown(textOf(to).split(mark(end))[1]!)) return false;
  // In one paragraph words are repeated; an item of a list is more than its words.
  return from.paragraph !== to.paragraph || from.said.tag === "if" || isListItem(from.paragraph);
}
const isBlockTag = ({ said: { tag } }: FoundTag): boolean => tag !== "value" && tag !== "picture";
const isListItem = (paragraph: Element): boolean => within(paragraph, "numPr").length > 0;

/** What makes a paragraph more than its text: a picture, a break, the end of a section. */
export const SHOWN = ["w:drawing", "w:pict", "w:object", "w:br", "w:sectPr"] as const;

/** Whether an element shows this text and nothing else. */
export const holdsOnly = (e: Element, text: string): boolean =>
  (e.textContent ?? "").trim() === text && SHOWN.every((name) => e.getElementsByTagName(name).length === 0);

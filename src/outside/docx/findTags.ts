import { MOST_OF_TEMPLATE, plainly, readTag, UNSEEN, type TagSaid } from "@/core/document";
import { templateParts } from "@/core/expression";
import type { PieceOf } from "./pieces";
import { tidy, unwrapControls } from "./tidy";
import { around, within } from "./xml";

/** A tag in a file. What it says stands whole in one text, from `from` to `to`. */
export interface FoundTag {
  said: TagSaid;
  piece: number;
  paragraph: Element;
  near: string;
  /** The text it stands in; marks in its place, until `put` gives it words. */
  text: Element;
}

/** Stands in a text for the tag of that number; from a range of Unicode that belongs to nobody. */
export const OPEN = "\uf8f0";
export const CLOSE = "\uf8f1";
const MARKS = /[\uf8f0-\uf8ff]/gu;
export const mark = (at: number): string => `${OPEN}${at}${CLOSE}`;

/**
 * Finds the tags of all pieces, in the order in which they are read, however the word processor has split them, and puts a
 * mark of its number in the place of each. The pieces are changed.
 */
export function findTags(pieces: readonly PieceOf[]): { tags: FoundTag[]; unclosed: string[] } {
  const tags: FoundTag[] = [];
  const unclosed: string[] = [];
  for (const [piece, { xml }] of pieces.entries()) {
    tidy(xml);
    // Marks of ours that are there already would be taken for tags.
    for (const t of within(xml.documentElement, "t"))
      if (MARKS.test(t.textContent ?? "")) setText(t, (t.textContent ?? "").replace(MARKS, " "));
    const order = new Map(within(xml.documentElement, "t").map((t, i) => [t, i]));
    const here: { tag: FoundTag; at: number; offset: number }[] = [];
    for (const paragraph of within(xml.documentElement, "p")) {
      const texts = ownTexts(paragraph);
      const whole = texts.map((t) => t.textContent ?? "").join("");
      if (!whole.includes("{")) continue;
      const near = nearText(whole);
      const { found, open } = tagsIn(plainly(whole));
      if (open) unclosed.push(near);
      // From behind, so that what stands before keeps its place.
      for (const { from, to, said } of found.toReversed()) {
        const text = cut(texts, from, to, said === null ? "{" : `${OPEN}${CLOSE}`);
        if (said === null) continue;
        const tag = { said, piece, paragraph, near, text };
        here.push({ tag, at: order.get(text)!, offset: from });
      }
    }
    here.sort((a, b) => a.at - b.at || a.offset - b.offset);
    tags.push(...here.map((x) => x.tag));
  }
  // By now each stands in its place without a number.
  numbered(pieces);
  unwrapControls(tags.map((t) => t.text));
  return { tags, unclosed };
}

/** The tags of a paragraph by their place in its text; null for two braces, which stand for one. */
function tagsIn(whole: string): {
  found: { from: number; to: number; said: TagSaid | null }[];
  open: boolean;
} {
  const found: { from: number; to: number; said: TagSaid | null }[] = [];
  let open = false;
  for (const p of templateParts(whole)) {
    if ("open" in p) open = true;
    if (!("formula" in p)) continue;
    const from = whole.lastIndexOf("{", p.from - 1);
    const to = whole.indexOf("}", p.to) + 1;
    found.push({ from, to, said: readTag(whole.slice(from + 1, to - 1)) });
  }
  // What is no tag and has two braces says one.
  for (let i = 0; i < whole.length - 1; i++) {
    const inTag = found.find((f) => f.said !== null && i >= f.from && i < f.to);
    if (inTag) i = inTag.to - 1;
    else if (whole.startsWith("{{", i)) found.push({ from: i, to: ++i + 1, said: null });
  }
  return { found: found.sort((a, b) => a.from - b.from), open };
}

/**
 * Puts something in the place of a stretch of texts that stand one behind the other: into the first of them, so that it
 * looks as its first letter did.
 */
function cut(texts: readonly Element[], from: number, to: number, words: string): Element {
  let at = 0;
  let first: Element | null = null;
  for (const t of texts) {
    const text = t.textContent ?? "";
    const [start, end] = [Math.max(from - at, 0), Math.min(to - at, text.length)];
    at += text.length;
    if (start >= end) continue;
    const put = first ? "" : words;
    setText(t, text.slice(0, start) + put + text.slice(end));
    first ??= t;
  }
  return first!;
}

/** The texts of a paragraph, without those of a text box that stands in it. */
export const ownTexts = (paragraph: Element): Element[] =>
  within(paragraph, "t").filter((t) => around(t, "p") === paragraph);

export function setText(t: Element, text: string): void {
  t.textContent = text;
  t.setAttribute("xml:space", "preserve");
}

/** Gives the empty marks their numbers, in the order of the text. */
function numbered(pieces: readonly PieceOf[]): void {
  let n = 0;
  for (const { xml } of pieces)
    for (const t of within(xml.documentElement, "t")) {
      const text = t.textContent ?? "";
      if (text.includes(OPEN))
        setText(
          t,
          text.replaceAll(`${OPEN}${CLOSE}`, () => mark(n++)),
        );
    }
}

const nearText = (whole: string): string => {
  const text = whole.replace(UNSEEN, "").replace(/\s+/g, " ").trim();
  return text.length <= MOST_OF_TEMPLATE.near ? text : `${text.slice(0, MOST_OF_TEMPLATE.near - 1)}…`;
};

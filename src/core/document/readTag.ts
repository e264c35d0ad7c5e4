import { MOST_MM, type TagSaid } from "./document";

/** Quotation marks that a word processor puts in the place of plain ones, and the spaces it keeps together. */
const CURLED = /[\u201c\u201d\u201e\u201f\u00ab\u00bb]/g;
const SPACES = /[\u00a0\u2000-\u200a\u202f\u205f\u3000]/g;
/** Marks without a width that a word processor leaves behind; they mean nothing. */
export const UNSEEN = /[\u00ad\u200b-\u200f\u2060\ufeff]/g;

/** A text as formulas are written, of the same length: word processors curl quotation marks and keep spaces together. */
export const plainly = (text: string): string => text.replace(CURLED, '"').replace(SPACES, " ");

/**
 * What stands between two braces, read.
 * @param text as `plainly` gives it
 */
export function readTag(text: string): TagSaid {
  const said = text.replace(UNSEEN, "").trim();
  if (/^end(\s+(if|for\s+each))?$/i.test(said)) return { tag: "end" };
  if (/^otherwise$/i.test(said)) return { tag: "otherwise" };
  const each = /^for\s+each\s+(.+)$/is.exec(said);
  if (each) return { tag: "each", of: each[1]!.trim() };
  const when = /^if\s+(.+)$/is.exec(said);
  // FEEL has a choice of its own, which is a value: if a then b else c.
  if (when && !chooses(when[1]!)) return { tag: "if", of: when[1]!.trim() };
  const picture = /^picture\s+(.+?)(?:,\s*(\d{1,3}(?:[.,]\d)?)\s*mm)?$/is.exec(said);
  if (!picture) return { tag: "value", of: said };
  const mm = picture[2] === undefined ? undefined : Number(picture[2].replace(",", "."));
  const wide = mm === undefined || !(mm > 0) ? {} : { mm: Math.min(mm, MOST_MM) };
  return { tag: "picture", of: picture[1]!.trim(), ...wide };
}

/** Whether a formula goes on with "then" outside of its texts. */
const chooses = (rest: string): boolean => /\bthen\b/.test(rest.replace(/"(?:[^"\\]|\\.)*"/g, '""'));

/** A tag as it is written in a file, with its braces. */
export function tagText(t: TagSaid): string {
  switch (t.tag) {
    case "value":
      return `{${t.of}}`;
    case "each":
      return `{for each ${t.of}}`;
    case "if":
      return `{if ${t.of}}`;
    case "otherwise":
      return "{otherwise}";
    case "end":
      return "{end}";
    case "picture":
      return `{picture ${t.of}${t.mm === undefined ? "" : `, ${t.mm} mm`}}`;
  }
}

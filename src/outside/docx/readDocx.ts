import { MOST_OF_TEMPLATE, tagText, type DocumentTag, type TagSaid } from "@/core/document";
import { tagsApart } from "./blocks";
import { findTags, mark, setText, type FoundTag } from "./findTags";
import { NotDocx, openDocx, packDocx } from "./openDocx";
import { piecesOf, unfilledPieces } from "./pieces";
import { within, xmlText } from "./xml";

/** What is read from an uploaded template. */
export interface ReadTemplate {
  tags: DocumentTag[];
  /** Sentences about what is not wrong and yet not what somebody would expect. */
  notes: string[];
}

/** The tags of a DOCX. @throws NotDocx with why it can be no template */
export async function readDocx(bytes: Buffer): Promise<ReadTemplate> {
  const parts = await openDocx(bytes);
  const pieces = piecesOf(parts);
  const { tags, unclosed } = findTags(pieces);
  if (tags.length > MOST_OF_TEMPLATE.tags)
    throw new NotDocx(`It has ${tags.length} tags; a template has at most ${MOST_OF_TEMPLATE.tags}.`);
  const long = tags.find((t) => "of" in t.said && t.said.of.length > MOST_OF_TEMPLATE.formula);
  if (long)
    throw new NotDocx(
      `The formula of a tag has at most ${MOST_OF_TEMPLATE.formula} characters; the one at “${long.near}” has more. Work it out in a field.`,
    );
  const apart = tagsApart(tags);
  const notes = unclosed.map(
    (near) =>
      `At “${near}” a brace is opened and not closed again in its paragraph, so that it is no tag. Two braces {{ stand for one.`,
  );
  if (unfilledPieces(parts).some((d) => within(d.documentElement, "t").some(hasTag)))
    notes.push("Tags in footnotes, endnotes and comments are not filled in. Write them in the text.");
  return {
    tags: tags.map((t, i) => kept(t, pieces[t.piece]!.in, apart.has(i))),
    notes,
  };
}
const hasTag = (t: Element): boolean => /\{[^{}]+\}/.test(t.textContent ?? "");

/** A tag as a definition keeps it. */
const kept = ({ said, piece, near }: FoundTag, where: DocumentTag["in"], apart: boolean): DocumentTag => ({
  ...said,
  piece,
  in: where,
  near,
  ...(apart ? { apart } : {}),
});

/** The file with its tags as they say by now, to go on with in the word processor. @throws NotDocx */
export async function writeTags(bytes: Buffer, said: readonly TagSaid[]): Promise<Buffer> {
  const parts = await openDocx(bytes);
  const pieces = piecesOf(parts);
  const { tags } = findTags(pieces);
  for (const [at, { text }] of tags.entries())
    setText(
      text,
      (text.textContent ?? "").replace(mark(at), () => tagText(said[at]!)),
    );
  for (const { part, xml } of pieces) parts.set(part, Buffer.from(xmlText(xml)));
  return packDocx(parts);
}

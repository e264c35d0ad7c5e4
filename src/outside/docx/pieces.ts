import type { Piece } from "@/core/document";
import { NotDocx, readXml, textOf, type Parts } from "./openDocx";
import { W, within } from "./xml";

/** A piece of a document that may have tags: its text, a header, a footer. */
export interface PieceOf {
  /** The part it is, by name. */
  part: string;
  in: Piece;
  xml: Document;
}

/** The pieces of a document, the text first, then headers and footers by name. @throws NotDocx */
export function piecesOf(parts: Parts): PieceOf[] {
  const main = mainPart(parts);
  const folder = main.slice(0, main.lastIndexOf("/") + 1);
  const named = [...parts.keys()]
    .filter((name) => name.startsWith(folder))
    .flatMap((part): { part: string; in: Piece }[] => {
      const found = /^(header|footer)\d*\.xml$/.exec(part.slice(folder.length));
      return found ? [{ part, in: found[1] as Piece }] : [];
    })
    .sort((a, b) => rank(a) - rank(b) || order(a.part) - order(b.part));
  const pieces = [{ part: main, in: "text" as const }, ...named].map((p) => ({
    ...p,
    xml: readXml(parts, p.part),
  }));
  const { documentElement: root } = pieces[0]!.xml;
  if (root.namespaceURI !== W || root.nodeName !== "w:document")
    throw new NotDocx(
      "It is saved in a rarer form of DOCX. In the word processor choose to save it as DOCX, not as strict Open XML.",
    );
  for (const { xml } of pieces) mustFetchNothing(xml);
  return pieces;
}

/** Fields that read something in from elsewhere, or start a program. */
const FETCHES = /\b(DDE|DDEAUTO|INCLUDEPICTURE|INCLUDETEXT|LINK)\b/i;
function mustFetchNothing(xml: Document): void {
  const simple = within(xml.documentElement, "fldSimple").map((e) => e.getAttribute("w:instr") ?? "");
  // A word processor may split what a field says.
  const said = within(xml.documentElement, "instrText").map((e) => e.textContent ?? "");
  if (FETCHES.test(said.join("")) || simple.some((x) => FETCHES.test(x)))
    throw new NotDocx(
      "It has a field that reads something in from elsewhere. Put the picture or text itself in its place.",
    );
}
const rank = (p: { in: Piece }): number => ["text", "header", "footer"].indexOf(p.in);
const order = (part: string): number => Number(/(\d+)\.xml$/.exec(part)?.[1] ?? 0);

/** Pieces that could have tags and are not filled in: footnotes and the like. */
export function unfilledPieces(parts: Parts): Document[] {
  return [...parts.keys()]
    .filter((name) => /\/(footnotes|endnotes|comments)\.xml$/.test(name))
    .map((name) => readXml(parts, name));
}

function mainPart(parts: Parts): string {
  const rels = textOf(parts, "_rels/.rels");
  const main = /<(?:\w+:)?Relationship\b[^>]*officeDocument"[^>]*>/i.exec(rels)?.[0] ?? "";
  const target = (/\bTarget\s*=\s*"([^"]*)"/i.exec(main)?.[1] ?? "").replace(/^\//, "");
  if (!parts.has(target))
    throw new NotDocx("It has no text of a word processor in it. Save it as DOCX there.");
  return target;
}

import type { Piece } from "@/core/document";
import { NotDocx, textOf, type Parts } from "./openDocx";
import { NotXml, parseXml } from "./xml";

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
  return [{ part: main, in: "text" as const }, ...named].map((p) => ({ ...p, xml: readXml(parts, p.part) }));
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

function readXml(parts: Parts, name: string): Document {
  try {
    return parseXml(textOf(parts, name));
  } catch (e) {
    if (!(e instanceof NotXml)) throw e;
    throw new NotDocx("It is damaged: what is in it cannot be read. Save it anew in the word processor.");
  }
}

import { CLOSE, OPEN } from "./findTags";
import { isW, W } from "./xml";

/** A page behind all others of a document that tells who signed it. */
export interface ClosingPage {
  title: string;
  /** One after another, each with its picture above its lines. */
  entries: readonly ClosingEntry[];
}
export interface ClosingEntry {
  /** Id of its file; null for none. */
  picture: string | null;
  lines: readonly string[];
}

/** How wide a picture stands there, in millimetres. */
export const CLOSING_MM = 50;
/** What stands in the places of the page: its words, and the pictures by id. */
export type ClosingData = { name: string; is: { words: string } | { picture: string } }[];

/**
 * Puts the page behind what is in a document, with places for its words and pictures: those are filled like every other, so
 * that nothing in them is read as markup. The paragraphs of an entry stay together.
 * @returns what is to stand in the places
 */
export function addClosingPage(xml: Document, page: ClosingPage): ClosingData {
  const { documentElement: root } = xml;
  const body = [...children(root)].find((c) => isW(c, "body"));
  if (!body) return [];
  // How the last pages are laid out is said by what stands last.
  const last = [...children(body)].findLast((c) => isW(c, "sectPr")) ?? null;
  const data: ClosingData = [];
  const add = (is: ClosingData[number]["is"], how: Look) => {
    const name = `s${data.length}`;
    data.push({ name, is });
    body.insertBefore(paragraph(xml, `${OPEN}${name}${CLOSE}`, how), last);
  };
  add({ words: page.title }, { size: 32, bold: true, before: "page", after: 240, keeps: true });
  for (const { picture, lines } of page.entries) {
    if (picture !== null) add({ picture }, { size: 20, after: 60, keeps: true });
    for (const [i, words] of lines.entries())
      add(
        { words },
        { size: 20, bold: i === 0, after: i === lines.length - 1 ? 360 : 40, keeps: i < lines.length - 1 },
      );
  }
  return data;
}

interface Look {
  /** In half points. */
  size: number;
  bold?: boolean;
  /** Begins a page. */
  before?: "page";
  /** In twentieths of a point. */
  after: number;
  /** Stays on one page with what follows. */
  keeps: boolean;
}

function paragraph(xml: Document, text: string, { size, bold, before, after, keeps }: Look): Element {
  const make = (name: string, values: Record<string, string> = {}, ...inside: Node[]): Element => {
    const e = xml.createElementNS(W, `w:${name}`);
    for (const [k, v] of Object.entries(values)) e.setAttributeNS(W, `w:${k}`, v);
    for (const n of inside) e.appendChild(n);
    return e;
  };
  const t = make("t", {}, xml.createTextNode(text));
  const looks = [
    ...(bold ? [make("b")] : []),
    make("sz", { val: String(size) }),
    make("szCs", { val: String(size) }),
  ];
  // In the order in which the schema asks for them (ECMA-376, part 1, 17.3.1.26).
  const laid = [
    ...(keeps ? [make("keepNext")] : []),
    make("keepLines"),
    ...(before === "page" ? [make("pageBreakBefore")] : []),
    make("spacing", { before: "0", after: String(after) }),
  ];
  return make("p", {}, make("pPr", {}, ...laid), make("r", {}, make("rPr", {}, ...looks), t));
}

function* children(e: Element): Generator<Node> {
  for (let c = e.firstChild; c; c = c.nextSibling) yield c;
}

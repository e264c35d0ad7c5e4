import JSZip from "jszip";
import { tagTree, type DocumentTag, type Filled, type TagNode } from "@/core/document";
import { parseXml, within } from "./xml";

const NAMES =
  'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape" xmlns:w14="http://schemas.microsoft.com/office/word/2010/wordml" xmlns:v="urn:schemas-microsoft-com:vml" xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"';
const REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';

interface Made {
  header?: string;
  footer?: string;
  /** Other parts by name. */
  parts?: Readonly<Record<string, string | Buffer>>;
  /** More relations of the text. */
  relations?: string;
}

/** A DOCX of the least parts a word processor opens. @param body what stands in its text, as WordprocessingML */
export async function madeDocx(
  body: string,
  { header, footer, parts = {}, relations = "" }: Made = {},
): Promise<Buffer> {
  const zip = new JSZip();
  const piece = (name: "header" | "footer", text: string | undefined) => {
    if (text === undefined) return { type: "", relation: "", reference: "" };
    const tag = name === "header" ? "hdr" : "ftr";
    zip.file(`word/${name}1.xml`, `${HEAD}<w:${tag} ${NAMES}>${text}</w:${tag}>`);
    return {
      type: `<Override PartName="/word/${name}1.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.${name}+xml"/>`,
      relation: `<Relationship Id="r${name}" Type="${REL}/${name}" Target="${name}1.xml"/>`,
      reference: `<w:${name}Reference w:type="default" r:id="r${name}"/>`,
    };
  };
  const [top, foot] = [piece("header", header), piece("footer", footer)];
  zip.file(
    "[Content_Types].xml",
    `${HEAD}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/>${top.type}${foot.type}</Types>`,
  );
  zip.file(
    "_rels/.rels",
    `${HEAD}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${REL}/officeDocument" Target="word/document.xml"/></Relationships>`,
  );
  zip.file(
    "word/_rels/document.xml.rels",
    `${HEAD}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${top.relation}${foot.relation}${relations}</Relationships>`,
  );
  zip.file(
    "word/document.xml",
    `${HEAD}<w:document ${NAMES}><w:body>${body}<w:sectPr>${top.reference}${foot.reference}</w:sectPr></w:body></w:document>`,
  );
  for (const [name, content] of Object.entries(parts)) zip.file(name, content);
  return zip.generateAsync({ type: "nodebuffer", compression: "DEFLATE" });
}

/** A paragraph of runs. */
export const p = (...runs: string[]): string =>
  `<w:p>${runs.map((t) => (t.startsWith("<") ? t : r(t))).join("")}</w:p>`;
export const r = (text: string, look = ""): string =>
  `<w:r>${look && `<w:rPr>${look}</w:rPr>`}<w:t xml:space="preserve">${escaped(text)}</w:t></w:r>`;
export const item = (text: string): string =>
  `<w:p><w:pPr><w:numPr><w:ilvl w:val="0"/><w:numId w:val="1"/></w:numPr></w:pPr>${r(text)}</w:p>`;
export const table = (...rows: string[][]): string =>
  `<w:tbl>${rows.map((cells) => `<w:tr>${cells.map((c) => `<w:tc>${c.startsWith("<") ? c : p(c)}</w:tc>`).join("")}</w:tr>`).join("")}</w:tbl>`;
const escaped = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;");

/** The paragraphs a reader sees in a part, a break as a line; cells of a row as one line. */
export async function docxText(bytes: Buffer, part = "word/document.xml"): Promise<string[]> {
  const zip = await JSZip.loadAsync(bytes);
  const xml = parseXml(await zip.file(part)!.async("string"));
  return within(xml.documentElement, "p").map((paragraph) => {
    let text = "";
    const visit = (n: Node): void => {
      for (let c = n.firstChild; c; c = c.nextSibling) {
        if (c.nodeName === "w:t") text += c.textContent ?? "";
        else if (c.nodeName === "w:br") text += "\n";
        else if (c.nodeName !== "w:p") visit(c);
      }
    };
    visit(paragraph);
    return text;
  });
}

/** What the tags of a file come to by names alone: a model of formulas that knows no formulas. */
export function filledBy(tags: readonly DocumentTag[], names: Readonly<Record<string, unknown>>): Filled[] {
  const all = (nodes: readonly TagNode[], known: Readonly<Record<string, unknown>>): Filled[] =>
    nodes.map((n): Filled => {
      const v = known[n.of];
      if (n.node === "value") return typeof v === "string" ? v : `?${n.of}?`;
      if (n.node === "picture") return { picture: typeof v === "string" ? v : null };
      if (n.node === "if")
        return { holds: v === true, parts: all(v === true ? n.parts : n.otherwise, known) };
      const things = v as Record<string, unknown>[];
      return { times: things.map((x, i) => all(n.parts, { ...known, number: String(i + 1), ...x })) };
    });
  return all(tagTree(tags).nodes, names);
}

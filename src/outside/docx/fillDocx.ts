import { MimeType, TemplateHandler, ImagePlugin, LoopPlugin, type TemplateData } from "easy-template-x";
import { tagTree, type Filled, type TagNode, type TreeTag } from "@/core/document";
import { blocksOf, holdsOnly, standsIn, wholeBlocks } from "./blocks";
import { addClosingPage, CLOSING_MM, type ClosingPage } from "./closingPage";
import { CLOSE, findTags, mark, OPEN, setText, type FoundTag } from "./findTags";
import { NotDocx, openDocx, packDocx } from "./openDocx";
import { piecesOf } from "./pieces";
import { WHOLE, WholeParts } from "./wholeParts";
import { Words } from "./words";
import { around, within, xmlText } from "./xml";

/** A picture, as PNG, with its size in pixels. */
export interface Picture {
  bytes: Uint8Array;
  width: number;
  height: number;
}
export interface Filling {
  bytes: Buffer;
  /** As they were when it was filled: what stands in it is told by their tree. */
  tags: readonly TreeTag[];
  filled: readonly Filled[];
  /** By the id of their file. */
  pictures: ReadonlyMap<string, Picture>;
  /** Who signed it; absent of one that nobody has. */
  closing?: ClosingPage;
}

/** Deeper than any word processor nests, and no deeper than a stack goes. */
const DEEPEST = 200;
/** Pixels to the inch, as documents count them, and a page's width within its margins, in pixels. */
const DPI = 96;
const WIDEST = 620;
/** What no XML can hold, and what would be taken for a mark. */
const UNFIT = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff\uf8f0-\uf8ff]/g;

/**
 * A template with values in the places of its tags, as DOCX. Tags become numbers before the library sees them, so that
 * nothing of a formula, nor of a value, is read as its syntax.
 * @throws NotDocx where the file is no template, or another than its tags are of
 */
export async function fillDocx({ bytes, tags, filled, pictures, closing }: Filling): Promise<Buffer> {
  const parts = await openDocx(bytes);
  const pieces = piecesOf(parts);
  const { tags: found } = findTags(pieces);
  if (found.length !== tags.length || found.some((t, i) => t.said.tag !== tags[i]!.tag))
    throw new NotDocx("It has other tags than it had when it was looked at. Upload it again.");
  const whole = wholeBlocks(found);
  const nameOf: NameOf = (open, part) => `${whole.has(open) ? WHOLE : "b"}${open}${part}`;
  putTags(found, nameOf);
  // After its own tags are found, so that it has none of them.
  const closes = closing ? addClosingPage(pieces[0]!.xml, closing) : [];
  for (const { part, xml } of pieces) parts.set(part, Buffer.from(xmlText(xml)));
  const data = dataOf(tagTree(tags).nodes, filled, { nameOf, pictures });
  for (const { name, is } of closes)
    data[name] =
      "words" in is
        ? plain(is.words)
        : { _type: "image", ...(pictureOf({ picture: is.picture }, CLOSING_MM, pictures) ?? {}) };
  return library().process(await packDocx(parts), data);
}

const plain = (words: string): string => words.replace(UNFIT, "").replace(/\r\n?/g, "\n");

function library(): TemplateHandler {
  const blocks = new LoopPlugin();
  // Before the library's own, of which only that for amid a paragraph is left.
  (blocks as unknown as { loopStrategies: unknown[] }).loopStrategies.unshift(new WholeParts());
  return new TemplateHandler({
    plugins: [blocks, new Words(), new ImagePlugin()],
    delimiters: {
      tagStart: OPEN,
      tagEnd: CLOSE,
      containerTagOpen: "#",
      containerTagClose: "/",
      tagOptionsStart: "\uf8f2",
      tagOptionsEnd: "\uf8f3",
    },
    maxXmlDepth: DEEPEST,
  });
}

const tag = (said: string): string => `${OPEN}${said}${CLOSE}`;
const put = (text: Element, at: number, words: string): void =>
  setText(
    text,
    (text.textContent ?? "").replace(mark(at), () => words),
  );

/** What a block is called; "n" is its other part. */
type NameOf = (open: number, part: "" | "n") => string;

/** Puts what the library reads in the place of the marks. */
function putTags(found: readonly FoundTag[], nameOf: NameOf): void {
  for (const { open, otherwise, end } of blocksOf(found)) {
    put(found[open]!.text, open, tag(`#${nameOf(open, "")}`));
    if (otherwise === undefined) {
      put(found[end]!.text, end, tag(`/${nameOf(open, "")}`));
      continue;
    }
    const rows = standsIn(found[open]!.paragraph, found[end]!.paragraph);
    between(
      found[otherwise]!,
      otherwise,
      rows !== null,
      tag(`/${nameOf(open, "")}`),
      tag(`#${nameOf(open, "n")}`),
    );
    put(found[end]!.text, end, tag(`/${nameOf(open, "n")}`));
  }
  for (const [at, { said, text }] of found.entries())
    put(text, at, said.tag === "value" || said.tag === "picture" ? tag(`v${at}`) : "");
}

/** Where one part ends and another begins: each in a row or a paragraph of its own, where the tag had one to itself. */
function between(t: FoundTag, at: number, inRows: boolean, ends: string, begins: string): void {
  const whole = inRows ? around(t.paragraph, "tr") : t.paragraph;
  if (!whole || !holdsOnly(whole, mark(at))) return put(t.text, at, ends + begins);
  const second = whole.cloneNode(true) as Element;
  put(t.text, at, ends);
  for (const text of within(second, "t")) put(text, at, begins);
  whole.parentNode!.insertBefore(second, whole.nextSibling);
}

/** What the library puts where: by the names of its tags, a list of such for what is repeated. */
function dataOf(
  nodes: readonly TagNode[],
  filled: readonly Filled[],
  by: { nameOf: NameOf; pictures: ReadonlyMap<string, Picture> },
): TemplateData & Record<string, unknown> {
  const out: Record<string, unknown> = {};
  const all = (list: readonly TagNode[], values: readonly Filled[]): void =>
    list.forEach((n, i) => {
      const f = values[i];
      switch (n.node) {
        case "value":
          out[`v${n.at}`] = typeof f === "string" ? plain(f) : "";
          break;
        case "picture":
          out[`v${n.at}`] = { _type: "image", ...(pictureOf(f, n.mm, by.pictures) ?? {}) };
          break;
        case "each":
          out[by.nameOf(n.at, "")] =
            typeof f === "object" && "times" in f ? f.times.map((x) => dataOf(n.parts, x, by)) : [];
          break;
        case "if": {
          const { holds, parts } = typeof f === "object" && "holds" in f ? f : { holds: false, parts: [] };
          out[by.nameOf(n.at, "")] = holds;
          out[by.nameOf(n.at, "n")] = !holds;
          all(holds ? n.parts : n.otherwise, parts);
        }
      }
    });
  all(nodes, filled);
  return out as TemplateData & Record<string, unknown>;
}

function pictureOf(f: Filled | undefined, mm: number | undefined, pictures: ReadonlyMap<string, Picture>) {
  const id = typeof f === "object" && "picture" in f ? f.picture : null;
  const p = id === null ? undefined : pictures.get(id);
  if (!p) return null;
  const width = Math.max(1, Math.round(mm === undefined ? Math.min(p.width, WIDEST) : (mm / 25.4) * DPI));
  const height = Math.max(1, Math.round((p.height / p.width) * width));
  return { source: Buffer.from(p.bytes), format: MimeType.Png, width, height, altText: "" };
}

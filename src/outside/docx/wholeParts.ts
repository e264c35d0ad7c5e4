import { officeMarkup, xml, type Tag, type XmlNode } from "easy-template-x";
import { SHOWN } from "./blocks";
import { NotDocx } from "./openDocx";

const { query } = officeMarkup;
/** What the name of a block begins with that is repeated by whole rows or paragraphs. */
export const WHOLE = "w";

/** What is taken out of a document to be repeated, and what marks its place meanwhile. */
interface Taken {
  firstNode: XmlNode;
  nodesToRepeat: XmlNode[];
  lastNode: XmlNode;
}
type Range = Taken;

/**
 * How something is repeated, or left out, that begins and ends with whole rows or whole paragraphs: as rows where its tags
 * stand in different cells, else as paragraphs. A row or a paragraph that has a tag and nothing else was only written for
 * that, and leaves no gap. Whatever begins and ends in one paragraph, or amid one, is the library's own to repeat.
 */
export class WholeParts {
  isApplicable(open: Tag): boolean {
    return open.name.startsWith(WHOLE);
  }

  splitBefore(open: Tag, close: Tag): Taken {
    const range = rangeOf(open, close);
    for (const t of [open, close]) xml.modify.remove(textOf(t));
    return range;
  }

  mergeBack(groups: XmlNode[][], first: XmlNode, last: XmlNode): void {
    const parent = first.parentNode!;
    for (const node of groups.flat()) xml.modify.insertBefore(node, first);
    if (first !== last) xml.modify.removeSiblings(first, last);
    for (const node of new Set([first, last])) xml.modify.remove(node);
    settle(parent);
  }
}

const textOf = (t: Tag): XmlNode => (t as Tag & { xmlTextNode: XmlNode }).xmlTextNode;

function rangeOf(open: Tag, close: Tag): Range {
  const [from, to] = [textOf(open), textOf(close)];
  const [cell, other] = [query.containingTableCellNode(from), query.containingTableCellNode(to)];
  const around =
    cell && other && cell !== other ? query.containingTableRowNode : query.containingParagraphNode;
  const [first, last] = [around(from), around(to)];
  if (first.parentNode !== last.parentNode)
    throw new NotDocx(
      "What is repeated begins and ends in places that do not belong together. Put both into rows of one table, or outside of it.",
    );
  return { firstNode: first, lastNode: last, nodesToRepeat: between(first, last, open, close) };
}

/** What is repeated of these and all between them: without the first and the last where they hold nothing but the tags. */
function between(first: XmlNode, last: XmlNode, open: Tag, close: Tag): XmlNode[] {
  const all = xml.query.siblingsInRange(first, last);
  if (first === last) return all;
  const bare = (node: XmlNode, tag: Tag) =>
    textsIn(node)
      .filter((t) => t !== textOf(tag))
      .every((t) => !words(t)) && !shows(node);
  return all.filter((n) => !((n === first && bare(first, open)) || (n === last && bare(last, close))));
}

/** The texts of a node, in order: what stands between the marks of a text's beginning and end. */
function textsIn(node: XmlNode): XmlNode[] {
  const out: XmlNode[] = [];
  const visit = (n: XmlNode): void => {
    if (n.nodeName === "w:t") out.push(...(n.childNodes ?? []));
    else for (const c of n.childNodes ?? []) visit(c);
  };
  visit(node);
  return out;
}
const words = (n: XmlNode): string => ("textContent" in n ? String(n.textContent ?? "") : "").trim();

function shows(node: XmlNode): boolean {
  if ((SHOWN as readonly string[]).includes(node.nodeName)) return true;
  return (node.childNodes ?? []).some(shows);
}

/** A table has a row, and whatever else holds paragraphs ends with one: without, the word processor calls the file damaged. */
function settle(holder: XmlNode): void {
  const all = holder.childNodes ?? [];
  if (holder.nodeName === "w:tbl") {
    if (all.some((n) => n.nodeName === "w:tr")) return;
    const parent = holder.parentNode;
    xml.modify.remove(holder);
    if (parent) settle(parent);
    return;
  }
  // The body ends with the setting of its pages, and may have no paragraph.
  if (holder.nodeName === "w:body" || holder.nodeName === "dummyRootNode") return;
  if (all.at(-1)?.nodeName !== "w:p") xml.modify.appendChild(holder, xml.create.generalNode("w:p"));
}

import { around, isElement, isW, remove, unwrap, within } from "./xml";

/**
 * Takes out of a piece what would stand between a tag and its place: changes that are tracked are taken as made, and what
 * older programs are shown in the place of a text box is left out, because its tags would stand there twice.
 */
export function tidy(xml: Document): void {
  const root = xml.documentElement;
  for (const name of ["del", "moveFrom"])
    for (const e of within(root, name)) {
      // On a row or a paragraph's end it says that the row, or the end, was taken out.
      const row = e.parentNode && isW(e.parentNode, "trPr") ? around(e, "tr") : null;
      remove(row ?? e);
    }
  for (const name of ["ins", "moveTo"]) for (const e of within(root, name)) unwrap(e);
  const leftovers = [
    "moveFromRangeStart",
    "moveFromRangeEnd",
    "moveToRangeStart",
    "moveToRangeEnd",
    "proofErr",
    "rPrChange",
    "pPrChange",
    "tblPrChange",
    "trPrChange",
    "tcPrChange",
    "sectPrChange",
  ];
  for (const name of leftovers) for (const e of within(root, name)) remove(e);
  for (const box of within(root, "txbxContent")) {
    for (let p = box.parentNode; p; p = p.parentNode)
      if (isElement(p) && p.localName === "Fallback") {
        remove(p);
        break;
      }
  }
}

/** Content controls around these are taken away, and what they hold stays: they would be filled anew, or hold a block back. */
export function unwrapControls(nodes: readonly Node[]): void {
  const controls = new Set<Element>();
  for (const n of nodes) for (let c = around(n, "sdt"); c; c = around(c, "sdt")) controls.add(c);
  for (const c of controls) {
    const content = [...children(c)].find((x) => isW(x, "sdtContent"));
    if (content) unwrap(c, content);
  }
}

export function* children(e: Node): Generator<Node> {
  for (let c = e.firstChild; c; c = c.nextSibling) yield c;
}

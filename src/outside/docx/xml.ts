import { DOMParser, XMLSerializer } from "@xmldom/xmldom";

/** WordprocessingML as word processors write it: transitional (ECMA-376, part 4). */
export const W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
const ELEMENT = 1;

export class NotXml extends Error {}

/** @throws NotXml with what is wrong, in words of the parser */
export function parseXml(text: string): Document {
  const parser = new DOMParser({
    errorHandler: {
      warning: () => {},
      error: (m: string) => {
        throw new NotXml(m);
      },
      fatalError: (m: string) => {
        throw new NotXml(m);
      },
    },
  });
  const document = parser.parseFromString(text, "text/xml") as Document | undefined;
  if (!document?.documentElement) throw new NotXml("it is empty");
  return document;
}
export const xmlText = (d: Document): string => new XMLSerializer().serializeToString(d);

export const isElement = (n: Node | null): n is Element => n?.nodeType === ELEMENT;
/** Whether a node is an element of the word processor's language by this name. */
export const isW = (n: Node | null, name: string): n is Element =>
  isElement(n) && n.localName === name && n.namespaceURI === W;

/** Elements by this name, of whatever language, right below the root. */
export function belowRoot(d: Document, name: string): Element[] {
  const out: Element[] = [];
  for (let c = d.documentElement.firstChild; c; c = c.nextSibling)
    if (isElement(c) && c.localName === name) out.push(c);
  return out;
}

/** Elements of this name inside another, at any depth, in the order of the text. */
export function within(root: Node, name: string): Element[] {
  const out: Element[] = [];
  // Not by recursion: a file may be nested deeper than a stack.
  const todo: Node[] = [root];
  for (let n = todo.pop(); n; n = todo.pop()) {
    if (n !== root && isW(n, name)) out.push(n);
    for (let c = n.lastChild; c; c = c.previousSibling) todo.push(c);
  }
  return out;
}

/** The nearest element of this name around a node, itself left out; null for none. */
export function around(n: Node, name: string): Element | null {
  for (let p = n.parentNode; p; p = p.parentNode) if (isW(p, name)) return p;
  return null;
}

export const remove = (n: Node): void => void n.parentNode?.removeChild(n);
/** Puts what stands in an element in its place. */
export function unwrap(e: Element, content: Node = e): void {
  const parent = e.parentNode;
  if (!parent) return;
  for (let c = content.firstChild; c; c = content.firstChild) parent.insertBefore(c, e);
  parent.removeChild(e);
}

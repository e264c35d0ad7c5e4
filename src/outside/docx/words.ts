import {
  officeMarkup,
  TemplatePlugin,
  TEXT_CONTENT_TYPE,
  xml,
  type ScopeData,
  type Tag,
  type XmlNode,
  type XmlTextNode,
} from "easy-template-x";

/** A value as words. The library's own puts all lines but the first behind whatever follows in the same run. */
export class Words extends TemplatePlugin {
  readonly contentType = TEXT_CONTENT_TYPE;

  override simpleTagReplacements(tag: Tag, data: ScopeData): void {
    const said: unknown = data.getScopeData();
    const [first = "", ...rest] = (typeof said === "string" ? said : "").split("\n");
    const text = (tag as Tag & { xmlTextNode: XmlTextNode }).xmlTextNode;
    text.textContent = first;
    const t = officeMarkup.query.containingTextNode(text);
    officeMarkup.modify.setSpacePreserveAttribute(t);
    let last: XmlNode = t;
    const add = (node: XmlNode) => {
      xml.modify.insertAfter(node, last);
      last = node;
    };
    for (const line of rest) {
      add(xml.create.generalNode("w:br"));
      const next = xml.create.generalNode("w:t");
      next.attributes = { "xml:space": "preserve" };
      next.childNodes = [];
      xml.modify.appendChild(next, xml.create.textNode(line));
      add(next);
    }
  }
}

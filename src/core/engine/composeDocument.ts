import { MOST_OF_DOCUMENT, tagTree, type DocumentTemplate, type Filled, type TagNode } from "../document";
import { Entity, isList, readText, type Names, type Value } from "../expression";
import { flatFields } from "../form";
import { tagPlace } from "../route";
import { documentOwner } from "./release";
import { namesInThing } from "./namesInThing";
import { scopeOfText } from "./scopeOfText";
import type { At, Turn } from "./turn";
import { Unclear } from "./unclear";

/** A document as it would be drawn up now. */
export interface ComposedDocument {
  template: DocumentTemplate;
  filled: Filled[];
  /** By the number of a tag why it cannot be worked out, for whoever looks only. */
  whys: ReadonlyMap<number, string>;
}

/**
 * Puts the values into the places of a template. Unlike in a text, what cannot be worked out is no gap here: people sign
 * what stands in a document.
 * @param at where it is drawn up: the names known there are known in it
 * @param looking for whoever designs it: what cannot be worked out is told in `whys`, and left out
 * @throws Unclear where anything cannot be worked out, or it would be too long
 */
export function composeDocument(turn: Turn, at: At, id: string, looking = false): ComposedDocument {
  const owner = documentOwner(id);
  const template = turn.release.documents.get(owner);
  if (!template) throw new Unclear({ code: "no-document", data: { document: id } });
  const scope = scopeOfText(turn, owner, at.scope);
  const composing = new Composing(turn, { step: owner, scope }, template, looking);
  const filled = composing.all(tagTree(template.tags).nodes, turn.names(scope), false);
  return { template, filled, whys: composing.whys };
}

class Composing {
  readonly whys = new Map<number, string>();
  private rows = 0;
  private characters = 0;

  constructor(
    private readonly turn: Turn,
    private readonly at: At,
    private readonly template: DocumentTemplate,
    private readonly looking: boolean,
  ) {}

  /** @param inItem whether the names of a thing of a list come before the others */
  all(nodes: readonly TagNode[], names: Names, inItem: boolean): Filled[] {
    return nodes.map((n) => this.one(n, names, inItem));
  }

  private one(n: TagNode, names: Names, inItem: boolean): Filled {
    switch (n.node) {
      case "value":
        return this.words(n, names, inItem);
      case "picture": {
        const v = this.value(n, names) ?? null;
        const file = v instanceof Entity && v.of === "file" ? v : null;
        // In what is repeated a thing may have something of the same name.
        const signs = inItem ? null : this.signature(n.of);
        return { picture: file?.id ?? null, ...(signs === null ? {} : { signs }) };
      }
      case "if": {
        const holds = this.value(n, names) === true;
        return { holds, parts: this.all(holds ? n.parts : n.otherwise, names, inItem) };
      }
      case "each": {
        const list = this.value(n, names) ?? null;
        const things: readonly Value[] = isList(list) ? list : [list].filter((x) => x !== null);
        this.bounded(things.length, 0);
        return {
          times: things.map((thing, i) => this.all(n.parts, namesInThing(thing, i + 1, names), true)),
        };
      }
    }
  }

  private words({ at, of }: { at: number; of: string }, names: Names, inItem: boolean): string {
    // Asked first: as a text it would leave out what cannot be worked out.
    if (this.value({ at, of }, names) === undefined) return "";
    const { money, moneyColumns } = this.turn.release;
    const path = pathOf(of);
    const column = path !== null && (path.length > 1 || inItem) ? path.at(-1)! : null;
    const isMoney = money.has(of.trim()) || (column !== null && moneyColumns.has(column));
    const text = readText(this.turn.readIn(this.at, tagPlace(at), of, names), isMoney);
    this.bounded(0, text.length);
    return text;
  }

  /** Undefined, for whoever looks only, where it cannot be worked out or there is no formula. */
  private value({ at, of }: { at: number; of: string }, names: Names): Value | undefined {
    if (!of) return undefined;
    const place = tagPlace(at);
    if (!this.looking) return this.turn.value(this.at, place, of, names);
    try {
      return this.turn.value(this.at, place, of, names);
    } catch (e) {
      if (!(e instanceof Unclear)) throw e;
      this.whys.set(at, "why" in e.reason.data ? (e.reason.data.why ?? HIDDEN) : HIDDEN);
      return undefined;
    }
  }

  /** The field for a signature whose place this is: it is signed there later. */
  private signature(of: string): string | null {
    const { definition, kinds } = this.turn.release;
    const name = of.trim();
    const field = flatFields(definition.fields).find((f) => f.name === name && kinds.fields[f.kind].signs);
    return field?.id ?? null;
  }

  private bounded(rows: number, characters: number) {
    this.rows += rows;
    this.characters += characters;
    const most = MOST_OF_DOCUMENT;
    if (this.rows <= most.rows && this.characters <= most.characters) return;
    throw new Unclear({ code: "document-too-long", data: { document: this.template.name, ...most } });
  }
}

const HIDDEN = "It cannot be worked out.";

/** The names of a formula that only follows one after another; null for any other. */
const pathOf = (formula: string): string[] | null =>
  /[()[\]{}"+*/=<>,]/.test(formula) ? null : formula.split(".").map((name) => name.trim());

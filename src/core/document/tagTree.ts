import { MOST_OF_TEMPLATE, type TagSaid } from "./document";

/** What of a tag the tree hangs on. */
export interface TreeTag {
  tag: TagSaid["tag"];
  /** Which piece of the file it stands in. */
  piece: number;
  of?: string;
  mm?: number;
  apart?: true;
}

/** A tag with what it repeats or leaves out; `at` counts tags in the order of the file. */
export type TagNode =
  | { node: "value"; at: number; of: string }
  | { node: "picture"; at: number; of: string; mm?: number }
  | { node: "each"; at: number; of: string; parts: TagNode[] }
  | { node: "if"; at: number; of: string; parts: TagNode[]; otherwise: TagNode[] };

/** A tag that has no place where it stands. */
export interface TagMistake {
  at: number;
  code:
    "end-too-many" | "no-end" | "otherwise-alone" | "otherwise-twice" | "too-deep" | "no-formula" | "apart";
  message: string;
}

interface Open {
  at: number;
  node: Extract<TagNode, { parts: TagNode[] }>;
  /** Into the second of an "if". */
  otherwise: boolean;
}

/**
 * Tags as they stand in one another, and what is wrong with how they do. What has no place is left out, and what has no
 * end ends with its piece of the file, so that a tree comes of every list of tags.
 */
export function tagTree(tags: readonly TreeTag[]): { nodes: TagNode[]; mistakes: TagMistake[] } {
  const nodes: TagNode[] = [];
  const mistakes: TagMistake[] = [];
  const open: Open[] = [];
  const wrong = (at: number, code: TagMistake["code"], message: string) =>
    void mistakes.push({ at, code, message });
  const unclosed = () => {
    for (const o of open.splice(0))
      wrong(
        o.at,
        "no-end",
        o.node.node === "each"
          ? `“{for each ${o.node.of}}” has no end. Write {end} behind what is repeated.`
          : `“{if ${o.node.of}}” has no end. Write {end} behind what it is about.`,
      );
  };
  const add = (node: TagNode) => {
    const o = open.at(-1);
    if (!o) nodes.push(node);
    else if (o.otherwise && o.node.node === "if") o.node.otherwise.push(node);
    else o.node.parts.push(node);
  };
  let piece = tags[0]?.piece;
  for (const [at, t] of tags.entries()) {
    if (t.piece !== piece) unclosed();
    piece = t.piece;
    const { of = "" } = t;
    if ("of" in t && !of && t.tag !== "otherwise" && t.tag !== "end") wrong(at, "no-formula", EMPTY[t.tag]);
    const begun = open.at(-1)?.node;
    if (t.apart && begun)
      wrong(
        at,
        "apart",
        `“{${t.tag}}” stands where “{${begun.node === "each" ? "for each" : "if"} ${begun.of}}” does not reach. Put both into rows of one table, or both outside of it.`,
      );
    switch (t.tag) {
      case "value":
        add({ node: "value", at, of });
        break;
      case "picture":
        add({ node: "picture", at, of, ...(t.mm === undefined ? {} : { mm: t.mm }) });
        break;
      case "each":
      case "if": {
        const node: Open["node"] =
          t.tag === "each"
            ? { node: "each", at, of, parts: [] }
            : { node: "if", at, of, parts: [], otherwise: [] };
        add(node);
        open.push({ at, node, otherwise: false });
        if (open.length === MOST_OF_TEMPLATE.deep + 1)
          wrong(
            at,
            "too-deep",
            `At most ${MOST_OF_TEMPLATE.deep} of {for each} and {if} stand within one another. Say two conditions as one: a and b.`,
          );
        break;
      }
      case "otherwise": {
        const o = open.at(-1);
        if (o?.node.node !== "if")
          wrong(at, "otherwise-alone", "“{otherwise}” stands outside of any {if …}. Take it out.");
        else if (o.otherwise)
          wrong(at, "otherwise-twice", `“{if ${o.node.of}}” has two {otherwise}. Take one out.`);
        else o.otherwise = true;
        break;
      }
      case "end":
        if (!open.pop())
          wrong(at, "end-too-many", "“{end}” ends nothing: there is one too many. Take it out.");
        break;
    }
  }
  unclosed();
  return { nodes, mistakes: mistakes.sort((a, b) => a.at - b.at) };
}

const EMPTY: Readonly<Record<"value" | "each" | "if" | "picture", string>> = {
  value:
    "The braces are empty. Write a formula between them, for example {Total}; two braces {{ stand for one.",
  each: "Say what it is repeated for, for example {for each Objects}.",
  if: "Say when it stands there, for example {if Courier needed}.",
  picture: "Say which picture, for example {picture Signature, 40 mm}.",
};

import { Mark, mergeAttributes, Node, nodeInputRule } from "@tiptap/core";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import { ListItem } from "@tiptap/extension-list";
import StarterKit from "@tiptap/starter-kit";
import { EACH_NAME } from "@/core/letter";
import { NODE } from "./document";

/** What a repeated block may hold: nothing that is repeated itself. */
const PLAIN = "paragraph | heading | bulletList | orderedList | table";

const text = (fallback = "") => ({ default: fallback });

/** A formula whose value stands there. Written {Formula}, it becomes one at the last brace. */
export const LetterValue = Node.create({
  name: NODE.value,
  group: "inline",
  inline: true,
  atom: true,
  addAttributes: () => ({ value: text() }),
  parseHTML: () => [{ tag: "span[data-value]", getAttrs: (e) => ({ value: e.dataset["value"] ?? "" }) }],
  renderHTML: ({ node }) => ["span", { "data-value": node.attrs["value"] as string }],
  renderText: ({ node }) => `{${node.attrs["value"] as string}}`,
  addInputRules() {
    return [
      nodeInputRule({
        // Without a group: of one with, only what that caught would be replaced.
        find: /\{[^{}]+\}$/,
        type: this.type,
        getAttributes: (m) => ({ value: m[0].slice(1, -1).trim() }),
      }),
    ];
  },
});

const block = (
  name: string,
  content: string,
  group: string,
  attributes: Record<string, { default: unknown }>,
) =>
  Node.create({
    name,
    group,
    content,
    defining: true,
    addAttributes: () => attributes,
    parseHTML: () => [{ tag: `div[data-${name.toLowerCase()}]` }],
    renderHTML: () => ["div", { [`data-${name.toLowerCase()}`]: "" }, 0],
  });
export const LetterWhen = block(NODE.when, "block+", "block", { when: text() });
export const LetterWhenInEach = block(NODE.whenInEach, `(${PLAIN})+`, "", { when: text() });
export const LetterEach = block(NODE.each, `(${PLAIN} | ${NODE.whenInEach})+`, "block", {
  of: text(),
  as: text(EACH_NAME),
});

/** A table with a row for each thing of a list. */
export const LetterLines = Node.create({
  name: NODE.lines,
  group: "block",
  atom: true,
  addAttributes: () => ({ of: text(), as: text(EACH_NAME), columns: { default: [] } }),
  parseHTML: () => [{ tag: "div[data-lines]" }],
  renderHTML: () => ["div", { "data-lines": "" }],
});

/** Where some words lead. It is no link in the editor: nothing is followed from there. */
const LetterLink = Mark.create({
  name: NODE.link,
  inclusive: false,
  addAttributes: () => ({ href: text() }),
  parseHTML: () => [{ tag: "a[href]", getAttrs: (e) => ({ href: e.getAttribute("href") ?? "" }) }],
  renderHTML: ({ mark, HTMLAttributes }) => [
    "span",
    mergeAttributes(HTMLAttributes, {
      class: "text-moss underline",
      title: mark.attrs["href"] as string,
    }),
    0,
  ],
});

const CELL = { content: "paragraph" };

/** What a letter can hold, and nothing else: what is pasted with more loses it. The nodes that are drawn come by `views`. */
export const extensionsWith = (views: {
  value: typeof LetterValue;
  when: typeof LetterWhen;
  whenInEach: typeof LetterWhenInEach;
  each: typeof LetterEach;
  lines: typeof LetterLines;
}) => [
  StarterKit.configure({
    blockquote: false,
    code: false,
    codeBlock: false,
    horizontalRule: false,
    link: false,
    listItem: false,
    strike: false,
    underline: false,
    heading: { levels: [2] },
  }),
  ListItem.extend({ content: "paragraph" }),
  Table,
  TableRow,
  TableCell.extend(CELL),
  TableHeader.extend(CELL),
  LetterLink,
  views.value,
  views.when,
  views.whenInEach,
  views.each,
  views.lines,
];

export const EXTENSIONS = extensionsWith({
  value: LetterValue,
  when: LetterWhen,
  whenInEach: LetterWhenInEach,
  each: LetterEach,
  lines: LetterLines,
});

import type { JSONContent } from "@tiptap/core";
import type { LetterPart, Look, PlainPart, Run, WhenInEach } from "@/core/letter";

/** Kinds of nodes of the editor, as its extensions call them. */
export const NODE = {
  value: "letterValue",
  when: "letterWhen",
  whenInEach: "letterWhenInEach",
  each: "letterEach",
  lines: "letterLines",
  link: "letterLink",
} as const;

/** A letter's parts as the editor holds them. */
export function toDocument(parts: readonly LetterPart[]): JSONContent {
  const content = parts.map((p) => partNode(p, false));
  return { type: "doc", content: content.length > 0 ? content : [{ type: "paragraph" }] };
}

function partNode(p: LetterPart | WhenInEach, inEach: boolean): JSONContent {
  switch (p.part) {
    case "paragraph":
      return paragraph(p.runs);
    case "heading":
      return { type: "heading", attrs: { level: 2 }, content: p.runs.flatMap(runNodes) };
    case "list":
      return {
        type: p.numbered ? "orderedList" : "bulletList",
        content: p.items.map((i) => ({ type: "listItem", content: [paragraph(i)] })),
      };
    case "table":
      return {
        type: "table",
        content: p.rows.map((row, i) => ({
          type: "tableRow",
          content: row.map((cell) => ({
            type: i === 0 ? "tableHeader" : "tableCell",
            content: [paragraph(cell)],
          })),
        })),
      };
    case "lines":
      return { type: NODE.lines, attrs: { of: p.of, as: p.as, columns: p.columns } };
    case "when":
      return {
        type: inEach ? NODE.whenInEach : NODE.when,
        attrs: { when: p.when },
        content: within(p.parts, inEach),
      };
    case "each":
      return { type: NODE.each, attrs: { of: p.of, as: p.as }, content: within(p.parts, true) };
  }
}

const within = (parts: readonly (LetterPart | WhenInEach)[], inEach: boolean): JSONContent[] =>
  parts.length > 0 ? parts.map((p) => partNode(p, inEach)) : [{ type: "paragraph" }];

const paragraph = (runs: readonly Run[]): JSONContent => ({
  type: "paragraph",
  content: runs.flatMap(runNodes),
});

function runNodes(r: Run): JSONContent[] {
  const marks = [
    ...(r.link === undefined ? [] : [{ type: NODE.link, attrs: { href: r.link } }]),
    ...(r.bold ? [{ type: "bold" }] : []),
    ...(r.italic ? [{ type: "italic" }] : []),
  ];
  const marked = marks.length > 0 ? { marks } : {};
  if ("value" in r) return [{ type: NODE.value, attrs: { value: r.value }, ...marked }];
  return r.text
    .split("\n")
    .flatMap((line, i): JSONContent[] => [
      ...(i > 0 ? [{ type: "hardBreak", ...marked }] : []),
      ...(line === "" ? [] : [{ type: "text", text: line, ...marked }]),
    ]);
}

/** What the editor holds as a letter's parts; nothing of the empty lines at its end. */
export function fromDocument(doc: JSONContent): LetterPart[] {
  const parts = (doc.content ?? []).map(partOf);
  const last = parts.findLastIndex((p) => p.part !== "paragraph" || p.runs.length > 0);
  return parts.slice(0, last + 1);
}

function partOf(n: JSONContent): LetterPart {
  const inside = n.content ?? [];
  switch (n.type) {
    case "heading":
      return { part: "heading", runs: runsOf(inside) };
    case "bulletList":
    case "orderedList":
      return {
        part: "list",
        ...(n.type === "orderedList" ? { numbered: true as const } : {}),
        items: inside.map((item) => runsOf(item.content?.[0]?.content ?? [])),
      };
    case "table":
      return {
        part: "table",
        rows: inside.map((row) =>
          (row.content ?? []).map((cell) => runsOf(cell.content?.[0]?.content ?? [])),
        ),
      };
    case NODE.lines: {
      const { of, as, columns } = n.attrs as {
        of: string;
        as: string;
        columns: { title: string; value: string }[];
      };
      return { part: "lines", of, as, columns };
    }
    case NODE.when:
    case NODE.whenInEach:
      return { part: "when", when: String(n.attrs?.["when"] ?? ""), parts: inside.map(partOf) };
    case NODE.each:
      return {
        part: "each",
        of: String(n.attrs?.["of"] ?? ""),
        as: String(n.attrs?.["as"] ?? ""),
        // What else may stand there the editor does not let in.
        parts: inside.map(partOf) as (PlainPart | WhenInEach)[],
      };
    case "paragraph":
      return { part: "paragraph", runs: runsOf(inside) };
    case undefined:
    default:
      throw new Error(`the editor holds a "${n.type}", of which a letter has none`);
  }
}

/** What stands in a line, with neighbours of one look put together. */
function runsOf(nodes: readonly JSONContent[]): Run[] {
  const out: Run[] = [];
  for (const n of nodes) {
    const look = lookOf(n);
    if (n.type === NODE.value) {
      out.push({ value: String(n.attrs?.["value"] ?? ""), ...look });
      continue;
    }
    const text = n.type === "hardBreak" ? "\n" : (n.text ?? "");
    const last = out.at(-1);
    if (
      last &&
      "text" in last &&
      JSON.stringify({ ...last, text: "" }) === JSON.stringify({ text: "", ...look })
    )
      last.text += text;
    else out.push({ text, ...look });
  }
  return out;
}

function lookOf(n: JSONContent): Look {
  const has = (type: string) => n.marks?.find((m) => m.type === type);
  const link = has(NODE.link)?.attrs?.["href"];
  return {
    ...(has("bold") ? { bold: true as const } : {}),
    ...(has("italic") ? { italic: true as const } : {}),
    ...(typeof link === "string" ? { link } : {}),
  };
}

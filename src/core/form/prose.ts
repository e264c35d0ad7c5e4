import { templateParts } from "../expression";

/** A stretch of a line: text, a link, or the value of the nth formula of the text. */
export type ProsePart = { text: string } | { text: string; href: string } | { value: number };
export interface ProseBlock {
  as: "paragraph" | "heading" | "item";
  parts: ProsePart[];
}

/** `[words](address)`, or an address alone; only what a browser opens over the web, or writes a mail to. */
const LINK =
  /\[([^\][]{1,200})\]\(((?:https?:\/\/|mailto:)[^\s()<>"]{1,500})\)|(https?:\/\/[^\s()<>"]{1,500}[^\s()<>".,;:!?])/g;

/**
 * A text as it is laid out: an empty line begins a paragraph, `# ` a heading, `- ` an entry of a list. What is filled in
 * is never marked up, whatever stands in it: the text is taken apart before anything is put in.
 */
export function prose(text: string): ProseBlock[] {
  const out: ProseBlock[] = [];
  let open: ProseBlock | null = null;
  let values = 0;
  const begin = (as: ProseBlock["as"]): ProseBlock => {
    const block: ProseBlock = { as, parts: [] };
    out.push(block);
    return block;
  };
  for (const part of templateParts(text)) {
    if ("formula" in part) {
      (open ??= begin("paragraph")).parts.push({ value: values++ });
      continue;
    }
    const lines = part.text.split("\n");
    for (const [i, line] of lines.entries()) {
      // What goes on behind a value stands on the line of that value.
      const fresh = i > 0 || open === null;
      const mark = fresh ? /^(#{1,3}|-)\s+/.exec(line) : null;
      if (mark) open = begin(mark[1] === "-" ? "item" : "heading");
      else if (fresh && line.trim() === "") open = null;
      else if (fresh && open?.as === "paragraph") open.parts.push({ text: "\n" });
      else if (fresh) open = begin("paragraph");
      const rest = mark ? line.slice(mark[0].length) : line;
      if (rest !== "" && open) open.parts.push(...linked(rest));
    }
  }
  return out.filter((b) => b.parts.some((p) => "value" in p || p.text.trim() !== ""));
}

function linked(line: string): ProsePart[] {
  const out: ProsePart[] = [];
  let done = 0;
  for (const m of line.matchAll(LINK)) {
    if (m.index > done) out.push({ text: line.slice(done, m.index) });
    out.push(m[2] === undefined ? { text: m[3]!, href: m[3]! } : { text: m[1]!, href: m[2] });
    done = m.index + m[0].length;
  }
  if (done < line.length) out.push({ text: line.slice(done) });
  return out;
}

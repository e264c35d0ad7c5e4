/** A text with formulas in braces: "{Request.number}: key for {Store.name}". `{{` is a plain brace. */
export type TemplatePart = { text: string } | { formula: string; from: number };

export function templateParts(template: string): TemplatePart[] {
  const out: TemplatePart[] = [];
  let text = "";
  const push = () => {
    if (text) out.push({ text });
    text = "";
  };
  for (let i = 0; i < template.length; ) {
    if (template.startsWith("{{", i)) {
      text += "{";
      i += 2;
    } else if (template[i] === "{") {
      const end = closing(template, i);
      if (end < 0) {
        text += template.slice(i);
        break;
      }
      push();
      out.push({ formula: template.slice(i + 1, end).trim(), from: i + 1 });
      i = end + 1;
    } else text += template[i++];
  }
  push();
  return out;
}

/** The brace that closes the one at `start`, leaving out braces in strings and contexts. */
function closing(template: string, start: number): number {
  let depth = 0;
  let quoted = false;
  for (let i = start; i < template.length; i++) {
    const c = template[i];
    if (quoted) {
      if (c === "\\") i++;
      else if (c === '"') quoted = false;
    } else if (c === '"') quoted = true;
    else if (c === "{") depth++;
    else if (c === "}" && --depth === 0) return i;
  }
  return -1;
}

export const mapTemplate = (template: string, change: (formula: string) => string): string =>
  templateParts(template)
    .map((p) => ("text" in p ? p.text.replaceAll("{", "{{") : `{${change(p.formula)}}`))
    .join("");

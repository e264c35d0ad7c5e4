import type { FormulaProblem } from "./problem";

/**
 * A text with formulas in braces: "{Request.number}: key for {Store.name}". `{{` is a plain brace.
 * `from` and `to` are where the formula stands, without the spaces around it; `open` is where a brace stands that
 * nothing closes: from there on all is plain text.
 */
export type TemplatePart = { text: string; open?: number } | { formula: string; from: number; to: number };

export function templateParts(template: string): TemplatePart[] {
  const out: TemplatePart[] = [];
  let text = "";
  const push = () => {
    if (text) out.push({ text });
    text = "";
  };
  for (let i = 0; i < template.length;) {
    if (template.startsWith("{{", i)) {
      text += "{";
      i += 2;
    } else if (template[i] === "{") {
      const end = closing(template, i);
      if (end < 0) {
        out.push({ text: text + template.slice(i), open: i });
        return out;
      }
      push();
      const inner = template.slice(i + 1, end);
      const formula = inner.trim();
      const from = i + 1 + (formula ? inner.indexOf(formula) : 0);
      out.push({ formula, from, to: from + formula.length });
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

/** The template with each formula passed through `change`; everything else stays to the letter. */
export function mapTemplate(template: string, change: (formula: string) => string): string {
  let out = "";
  let done = 0;
  for (const p of templateParts(template)) {
    if (!("formula" in p)) continue;
    out += template.slice(done, p.from) + change(p.formula);
    done = p.to;
  }
  return out + template.slice(done);
}

/** What is wrong with the braces of a template themselves, in its own positions. */
export function braceMistakes(template: string): FormulaProblem[] {
  return templateParts(template).flatMap((p): FormulaProblem[] => {
    if ("formula" in p)
      return p.formula
        ? []
        : [
            {
              code: "syntax",
              from: p.from - 1,
              to: Math.min(p.from + 1, template.length),
              message: "Nothing stands in the braces. Name a value, for example {Request.number}.",
            },
          ];
    if (p.open === undefined) return [];
    const rest = template.slice(p.open, p.open + 20);
    return [
      {
        code: "syntax",
        from: p.open,
        to: template.length,
        message: `The brace at "${rest}${template.length > p.open + 20 ? "…" : ""}" is not closed. Put } behind the formula, or write {{ for a plain brace.`,
        mend: { label: "}", insert: `${template}}` },
      },
    ];
  });
}

/** Where the formula begins that a place of a template is inside of; null in plain text. */
export function formulaStart(template: string, caret: number): number | null {
  // What is not closed before the caret is what the caret stands in.
  const last = templateParts(template.slice(0, caret)).at(-1);
  return last && "text" in last && last.open !== undefined ? last.open + 1 : null;
}

/** A letter as it is sent: the values put in. */
export interface WrittenRun {
  text: string;
  bold?: true;
  italic?: true;
  /** Checked: leads to the web, or to a mailbox. */
  link?: string;
  /** It was filled in: only where that is to be seen, never in what is sent. */
  inked?: true;
}
export type WrittenPart =
  | { part: "paragraph" | "heading"; runs: WrittenRun[] }
  | { part: "list"; numbered?: true; items: WrittenRun[][] }
  /** The first row is its heading. */
  | { part: "table"; rows: WrittenRun[][][] };

/** A letter as it is sent: its parts, and the language they are written in (BCP 47). */
export interface WrittenLetter {
  language: string;
  parts: WrittenPart[];
}

const textOf = (runs: readonly WrittenRun[]): string =>
  runs
    // An address that is not read in the text would be lost in it.
    .map((r) =>
      r.link && !r.link.includes(r.text) ? `${r.text} (${r.link.replace(/^mailto:/, "")})` : r.text,
    )
    .join("");

/** A table in lines of text: its rows, or for wide ones each row as a list of what stands under which heading. */
const MOST_WIDE = 72;
function tableText(rows: readonly (readonly WrittenRun[])[][]): string {
  const cells = rows.map((r) =>
    r.map((c) =>
      textOf(c)
        .replace(/[ \t\r\n]+/g, " ")
        .trim(),
    ),
  );
  const widths = (cells[0] ?? []).map((_, i) => Math.max(...cells.map((r) => [...(r[i] ?? "")].length)));
  const wide = widths.reduce((n, w) => n + w + 2, 0) > MOST_WIDE;
  const [head = [], ...body] = cells;
  if (wide)
    return body
      .map((r) =>
        r
          .map((c, i) =>
            head[i] ? `${i === 0 ? "- " : "  "}${head[i]}: ${c}` : `${i === 0 ? "- " : "  "}${c}`,
          )
          .join("\n"),
      )
      .join("\n");
  const line = (r: readonly string[]) =>
    r
      .map((c, i) => c + " ".repeat(widths[i]! - [...c].length))
      .join("  ")
      .trimEnd();
  return [line(head), line(widths.map((w) => "-".repeat(w))), ...body.map(line)].join("\n");
}

/** A letter for programs that show text alone, and for people who like it best. */
export function writtenText(parts: readonly WrittenPart[]): string {
  return parts
    .map((p) => {
      switch (p.part) {
        case "paragraph":
        case "heading":
          return textOf(p.runs).trim();
        case "list":
          return p.items
            .map(
              (item, i) => `${p.numbered ? `${i + 1}.` : "-"} ${textOf(item).trim().replace(/\n/g, "\n  ")}`,
            )
            .join("\n");
        case "table":
          return tableText(p.rows);
      }
    })
    .filter((t) => t !== "")
    .join("\n\n");
}

const escape = (s: string): string => s.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const P = "margin:0 0 14px";
const H = "margin:22px 0 10px;font-size:19px;line-height:1.3;font-weight:600";
const LIST = "margin:0 0 14px;padding-left:24px";
const ITEM = "margin:0 0 4px";
const TABLE = "border-collapse:collapse;margin:0 0 16px;width:100%";
const CELL = "padding:6px 12px 6px 0;text-align:left;vertical-align:top;border-bottom:1px solid #d9cfc0";
const INKED = "background:#e3e8d3;border-radius:2px";
const LINK = "color:#3f6b3a;text-decoration:underline";

function runsHtml(runs: readonly WrittenRun[]): string {
  return runs
    .map((r) => {
      let out = escape(r.text).replace(/\n/g, "<br>");
      if (r.inked && r.text !== "") out = `<span style="${INKED}">${out}</span>`;
      if (r.italic) out = `<i>${out}</i>`;
      if (r.bold) out = `<b>${out}</b>`;
      return r.link ? `<a href="${escape(r.link)}" style="${LINK}">${out}</a>` : out;
    })
    .join("");
}

/** A letter's parts as HTML that mail programs show well: styles stand on each thing, because most take all others away. */
function writtenHtml(parts: readonly WrittenPart[]): string {
  return parts
    .map((p) => {
      switch (p.part) {
        case "paragraph":
          return p.runs.some((r) => r.text.trim() !== "") ? `<p style="${P}">${runsHtml(p.runs)}</p>` : "";
        case "heading":
          return `<h2 style="${H}">${runsHtml(p.runs)}</h2>`;
        case "list": {
          const tag = p.numbered ? "ol" : "ul";
          const items = p.items.map((i) => `<li style="${ITEM}">${runsHtml(i)}</li>`);
          return `<${tag} style="${LIST}">${items.join("")}</${tag}>`;
        }
        case "table": {
          const row = (r: readonly WrittenRun[][], tag: "th" | "td") =>
            `<tr>${r.map((c) => `<${tag} style="${CELL}">${runsHtml(c)}</${tag}>`).join("")}</tr>`;
          const [head, ...body] = p.rows;
          return `<table style="${TABLE}">${head ? `<thead>${row(head, "th")}</thead>` : ""}<tbody>${body
            .map((r) => row(r, "td"))
            .join("")}</tbody></table>`;
        }
      }
    })
    .join("");
}

/** A plain text as parts: what stands between empty lines is a paragraph. */
export const partsOfText = (text: string): WrittenPart[] =>
  text
    .trim()
    .split(/\n{2,}/)
    .filter((p) => p.trim() !== "")
    .map((p) => ({ part: "paragraph", runs: [{ text: p }] }));

/** A mail of these parts, whole. @param more HTML behind them */
export const letterPage = ({ parts, language }: WrittenLetter, more = ""): string =>
  `<!doctype html><html${language ? ` lang="${escape(language)}"` : ""}><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"></head><body style="margin:0;padding:20px;background:#f5f0e8"><div style="max-width:560px;margin:0 auto;font:16px/1.5 Georgia,serif;color:#2b2420">${writtenHtml(parts)}${more}</div></body></html>`;

/** The address a link leads to where it is one that a letter may carry: on the web, or a mailbox; null for any other. */
export function safeLink(text: string): string | null {
  const t = text.trim();
  if (/[\s<>"]/.test(t)) return null;
  return /^(https?:\/\/[^/]|mailto:[^@]+@)/i.test(t) ? t : null;
}

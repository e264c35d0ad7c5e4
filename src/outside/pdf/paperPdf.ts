import pdfmake, { type Content, type TableCell } from "pdfmake";
import type { Paper, PaperBlock, PaperFact, PaperTable } from "@/core/paper";
import { faces, type Face } from "./faces";
import { runsOf, UNKNOWN } from "./runsOf";

const INK = "#1f1a14";
const SOFT = "#5c5348";
const LINE = "#cfc6b8";
/** From so many columns on a table wants the broad side. */
const BROAD = 7;

/** A paper as a PDF whose text can be searched, copied and read aloud. */
export async function paperPdf(paper: Paper): Promise<Buffer> {
  const { headings, work } = setUp();
  const missing = new Set<string>();
  const text = (t: string, more: object = {}, of: readonly Face[] = work): Content => ({
    text: runsOf(t, of, missing).map((r) => ({
      text: r.text,
      font: r.font,
      ...(r.long ? { wordBreak: "break-all" as const } : {}),
    })),
    ...more,
  });
  const valueOf = ({ value, picture }: PaperFact): Content =>
    picture === undefined
      ? text(value)
      : { stack: [{ image: picture, fit: [170, 56], margin: [0, 0, 0, 2] }, text(value)] };
  const block = (b: PaperBlock): Content => {
    switch (b.is) {
      case "heading":
        return text(
          b.text,
          {
            fontSize: b.level === 2 ? 14 : 11.5,
            bold: true,
            margin: [0, b.level === 2 ? 12 : 8, 0, 4],
            headlineLevel: b.level,
          },
          headings,
        );
      case "text":
        return text(b.text, { margin: [0, 3, 0, 5], ...(b.quiet ? { color: SOFT } : {}) });
      case "list":
        return { ul: b.items.map((i) => text(i)), margin: [0, 0, 0, 5] };
      case "facts":
        return {
          table: {
            widths: [130, "*"],
            body: b.facts.map((f) => [text(f.name, { color: SOFT }), valueOf(f)]),
          },
          layout: "facts",
        };
      case "table":
        return tableOf(b, text);
    }
  };
  const above = text(paper.above, { color: SOFT, margin: [0, 0, 0, 2] });
  const title = text(paper.title, { fontSize: 21, bold: true, margin: [0, 0, 0, 8] }, headings);
  const blocks = paper.blocks.map(block);
  const broad = paper.blocks.some((b) => b.is === "table" && b.head.length > BROAD);
  const made = pdfmake.createPdf({
    pageSize: "A4",
    pageOrientation: broad ? "landscape" : "portrait",
    pageMargins: [45, 45, 45, 50],
    info: { title: `${paper.above}: ${paper.title}` },
    language: paper.language,
    defaultStyle: { font: work[0]!.name, fontSize: 9.5, lineHeight: 1.15, color: INK },
    content: [
      above,
      title,
      ...blocks,
      ...(missing.size > 0 ? [text(notPrinted(missing.size), { color: SOFT, margin: [0, 10, 0, 0] })] : []),
    ],
    // A heading does not stand alone at the foot of a page.
    pageBreakBefore: (node, { getFollowingNodesOnPage }) =>
      node.headlineLevel !== undefined && getFollowingNodesOnPage().length === 0,
    footer: (page, pages) => ({
      columns: [
        text(paper.foot, { fontSize: 8, color: SOFT }),
        { text: `${page} / ${pages}`, alignment: "right", width: 60, fontSize: 8, color: SOFT },
      ],
      margin: [45, 14, 45, 0],
    }),
  });
  return made.getBuffer();
}

const notPrinted = (n: number): string =>
  `${n === 1 ? "One letter is" : `${n} different letters are`} in no typeface that this is printed with, and ${n === 1 ? "stands" : "stand"} as “${UNKNOWN}” here.`;

function tableOf(b: PaperTable, text: (t: string, more?: object) => Content): Content {
  const side = (nth: number) => (b.head[nth]?.figures ? { alignment: "right" as const } : {});
  const row = (cells: readonly string[], more: object = {}): TableCell[] =>
    cells.map((c, i) => text(c, { ...side(i), ...more }) as TableCell);
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: b.head.map((h) => (h.figures ? "auto" : "*")),
      body: [
        row(
          b.head.map((h) => h.name),
          { bold: true },
        ),
        ...b.rows.map((cells) => row(cells)),
        ...(b.sums ? [row(b.sums, { bold: true })] : []),
      ],
    },
    layout: "ruled",
    margin: [0, 0, 0, 8],
  };
}

let ready: ReturnType<typeof faces> | null = null;

function setUp(): ReturnType<typeof faces> {
  if (ready) return ready;
  const made = faces();
  const all = [...made.work, ...made.headings];
  pdfmake.setFonts(Object.fromEntries(all.map((f) => [f.name, f.files])));
  // Nothing a text says is fetched or read: of files only the faces are.
  const files = new Set(all.flatMap((f) => Object.values(f.files)));
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => files.has(path));
  pdfmake.setTableLayouts({
    facts: {
      hLineWidth: () => 0,
      vLineWidth: () => 0,
      paddingLeft: (i) => (i === 0 ? 0 : 6),
      paddingTop: () => 1.5,
      paddingBottom: () => 1.5,
    },
    ruled: {
      hLineWidth: () => 0.5,
      vLineWidth: () => 0,
      hLineColor: () => LINE,
      paddingTop: () => 2.5,
      paddingBottom: () => 2.5,
    },
  });
  return (ready = made);
}

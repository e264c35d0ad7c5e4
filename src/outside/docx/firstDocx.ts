import {
  Document,
  HeadingLevel,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
  type IBorderOptions,
} from "docx";
import type { FirstPart } from "@/core/document";

const LINE: IBorderOptions = { style: "single", size: 4, color: "999999" };
const NONE: IBorderOptions = { style: "none", size: 0, color: "auto" };
const LABEL_PERCENT = 35;
/** Of its text, as word processors count. */
const HALF_POINTS = 22;

/** A template made of parts, plain: it is adorned in the word processor. */
export async function firstDocx(parts: readonly FirstPart[]): Promise<Buffer> {
  const children = parts.flatMap((p): (Paragraph | Table)[] => {
    switch (p.part) {
      case "heading":
        return [
          new Paragraph({
            text: p.text,
            heading: p.level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
          }),
        ];
      case "values":
        return [
          table(
            p.rows.map((r) => [cell(r.label, LABEL_PERCENT, true), cell(r.tag, 100 - LABEL_PERCENT)]),
            false,
          ),
          new Paragraph(""),
        ];
      case "lines": {
        const wide = Math.floor(100 / p.columns.length);
        const head = p.columns.map((c) => cell(c.label, wide, true));
        return [table([head, p.columns.map((c) => cell(c.tag, wide))], true), new Paragraph("")];
      }
    }
  });
  const styles = { default: { document: { run: { font: "Calibri", size: HALF_POINTS } } } };
  return Packer.toBuffer(new Document({ styles, sections: [{ children }] }));
}

const cell = (text: string, percent: number, bold = false): TableCell =>
  new TableCell({
    width: { size: percent, type: WidthType.PERCENTAGE },
    children: [new Paragraph({ children: [new TextRun({ text, bold })] })],
  });

const table = (rows: TableCell[][], heads: boolean): Table => {
  const border = heads ? LINE : NONE;
  return new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    borders: {
      top: border,
      bottom: border,
      left: NONE,
      right: NONE,
      insideHorizontal: border,
      insideVertical: NONE,
    },
    // The names of columns stand on every page.
    rows: rows.map((children, i) => new TableRow({ children, tableHeader: heads && i === 0 })),
  });
};

import { buffer } from "node:stream/consumers";
import PDFDocument from "pdfkit";
import { labelPlace, sheetsOf, type Label, type LabelSheet } from "@/core/paper";
import { faces, type Face } from "./faces";
import { runsOf } from "./runsOf";

/** A4 in points. */
const WIDE = 595.28;
const HIGH = 841.89;
const POINTS_OF_MM = 72 / 25.4;
/** Between the edge of a label and what stands on it. */
const PAD = 7;
const HEADING = 10.5;
const LINE = 9;
const LEADING = 1.2;
/** A heading, and each line, goes over so many lines. */
const MOST_LINES = 2;
const MOST_MEASURED = 400;

type Doc = InstanceType<typeof PDFDocument>;
interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Labels, each cut to its own place: what does not fit ends with an ellipsis, so that the others stand where they must. */
export async function labelsPdf(sheet: LabelSheet): Promise<Buffer> {
  const { work } = faces();
  const doc = new PDFDocument({
    size: "A4",
    margin: 0,
    autoFirstPage: false,
    bufferPages: true,
    lang: sheet.language,
    displayTitle: true,
    pdfVersion: "1.7",
    info: { Title: sheet.title },
  });
  const bytes = buffer(doc);
  for (const f of work) {
    doc.registerFont(f.name, f.files.normal);
    doc.registerFont(boldOf(f.name), f.files.bold);
  }
  // One that has no labels is a sheet all the same.
  for (let n = 0; n < Math.max(1, sheetsOf(sheet.labels.length, sheet)); n++) doc.addPage();
  const margin = sheet.margin * POINTS_OF_MM;
  const width = (WIDE - 2 * margin) / sheet.across;
  const height = (HIGH - 2 * margin) / sheet.down;
  for (const [i, label] of sheet.labels.entries()) {
    const { sheet: page, row, column } = labelPlace(i, sheet);
    doc.switchToPage(page);
    const x = margin + column * width + PAD;
    const y = margin + row * height + PAD;
    drawLabel(doc, work, label, { x, y, width: width - 2 * PAD, height: height - 2 * PAD });
  }
  doc.end();
  return bytes;
}

const boldOf = (font: string): string => `${font} bold`;

function drawLabel(doc: Doc, work: readonly Face[], label: Label, { x, y, width, height }: Box) {
  let down = 0;
  const put = (text: string, size: number, bold: boolean) => {
    const room = Math.min(MOST_LINES, Math.floor((height - down) / (size * LEADING)));
    const write = writer(doc, work, size, bold);
    for (const line of fitted(text, width, room, write.width)) {
      write.at(line, x, y + down);
      down += size * LEADING;
    }
  };
  put(label.heading, HEADING, true);
  for (const line of label.lines) put(line, LINE, false);
}

function writer(doc: Doc, work: readonly Face[], size: number, bold: boolean) {
  const runs = (text: string) =>
    runsOf(text, work, new Set()).map((r) => ({ text: r.text, font: bold ? boldOf(r.font) : r.font }));
  const wide = (r: { text: string; font: string }) => doc.font(r.font).fontSize(size).widthOfString(r.text);
  return {
    width: (text: string) => runs(text).reduce((sum, r) => sum + wide(r), 0),
    at(text: string, x: number, y: number) {
      let right = x;
      for (const r of runs(text)) {
        const width = wide(r);
        doc.text(r.text, right, y, { lineBreak: false });
        right += width;
      }
    },
  };
}

/** A text on at most so many lines; what does not fit is left out behind an ellipsis. */
export function fitted(
  text: string,
  width: number,
  most: number,
  measure: (text: string) => number,
): string[] {
  // More than that fits on no label, and measuring all of a long text takes long.
  const words = text.slice(0, MOST_MEASURED).split(/\s+/).filter(Boolean);
  const out: string[] = [];
  let line = "";
  for (let word = words.shift(); word !== undefined && most > 0; word = words.shift()) {
    const next = line === "" ? word : `${line} ${word}`;
    if (measure(next) <= width) {
      line = next;
      continue;
    }
    if (out.length === most - 1) return [...out, shortened(next, width, measure)];
    if (line === "") {
      // A word longer than a line is broken.
      const begins = longest(word, width, measure);
      out.push(begins);
      words.unshift(word.slice(begins.length));
    } else {
      out.push(line);
      line = "";
      words.unshift(word);
    }
  }
  return line === "" || most === 0 ? out : [...out, line];
}

/** As many letters of a text as fit, at least one: else nothing would ever be left of it. */
function longest(text: string, width: number, measure: (text: string) => number): string {
  const letters = [...text];
  let n = letters.length;
  while (n > 1 && measure(letters.slice(0, n).join("")) > width) n--;
  return letters.slice(0, n).join("");
}

const shortened = (text: string, width: number, measure: (text: string) => number): string =>
  `${longest(text, width - measure("…"), measure).trimEnd()}…`;

import { spawnSync } from "node:child_process";

/** A stretch of text on a page, in points from its lower left corner. */
export interface PdfText {
  text: string;
  x: number;
  y: number;
  width: number;
}

/** The library is a module, which the test runner does not load: a program of its own reads. */
const READ = `
  import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
  const bytes = [];
  for await (const b of process.stdin) bytes.push(b);
  const doc = await getDocument({ data: new Uint8Array(Buffer.concat(bytes)), verbosity: 0 }).promise;
  const pages = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const { items } = await (await doc.getPage(n)).getTextContent();
    pages.push(
      items.map((i) => ({ text: i.str ?? "", x: i.transform?.[4], y: i.transform?.[5], width: i.width })),
    );
  }
  process.stdout.write(JSON.stringify(pages));
`;

/** What stands where on each page of a PDF. */
export function pdfTexts(pdf: Buffer): PdfText[][] {
  const read = spawnSync(process.execPath, ["--input-type=module", "-e", READ], {
    input: pdf,
    cwd: process.cwd(),
    maxBuffer: 50_000_000,
  });
  if (read.status !== 0) throw new Error(read.stderr.toString().slice(-2000));
  return JSON.parse(read.stdout.toString()) as PdfText[][];
}

/** The text of each page of a PDF, as a search finds it. */
export const pdfPages = (pdf: Buffer): string[] =>
  pdfTexts(pdf).map((page) =>
    page
      .map((t) => t.text)
      .join(" ")
      .replace(/\s+/g, " "),
  );

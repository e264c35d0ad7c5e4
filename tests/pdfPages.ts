import { spawnSync } from "node:child_process";

/** The library is a module, which the test runner does not load: a program of its own reads. */
const READ = `
  import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
  const bytes = [];
  for await (const b of process.stdin) bytes.push(b);
  const doc = await getDocument({ data: new Uint8Array(Buffer.concat(bytes)), verbosity: 0 }).promise;
  const pages = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const { items } = await (await doc.getPage(n)).getTextContent();
    pages.push(items.map((x) => x.str ?? "").join(" ").replace(/\\s+/g, " "));
  }
  process.stdout.write(JSON.stringify(pages));
`;

/** The text of each page of a PDF, as a search finds it. */
export function pdfPages(pdf: Buffer): string[] {
  const read = spawnSync(process.execPath, ["--input-type=module", "-e", READ], {
    input: pdf,
    cwd: process.cwd(),
    maxBuffer: 50_000_000,
  });
  if (read.status !== 0) throw new Error(read.stderr.toString().slice(-2000));
  return JSON.parse(read.stdout.toString()) as string[];
}

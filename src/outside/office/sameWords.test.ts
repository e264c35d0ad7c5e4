import { pdfTexts } from "../../../tests/pdfPages";
import { fillDocx, readDocx } from "../docx";
import { docxText, filledBy, madeDocx, p } from "../docx/testDocx";
import { NAMES, SHAPES } from "../docx/testShapes";
import { closeOffice, pdfOf } from ".";

jest.setTimeout(60_000);
afterAll(closeOffice);

/** Drawn by where they stand and how wide they are, which these have not said; or read from the right. */
const DRAWN = /text box|right to left/;
const together = (texts: readonly string[]): string => texts.join("").replace(/\s/g, "");

it("says in the PDF what the DOCX says, for all shapes of templates", async () => {
  const bodies = Object.entries(SHAPES).flatMap(([name, { body }]) =>
    DRAWN.test(name) ? [] : [body, p("-")],
  );
  const bytes = await madeDocx(bodies.join(""), { footer: p("{Total}") });
  const { tags } = await readDocx(bytes);
  const docx = await fillDocx({ bytes, tags, filled: filledBy(tags, NAMES), pictures: new Map() });
  const { pdf, pages } = await pdfOf(docx);
  const read = (await pdfTexts(pdf)).map((page) => page.map((t) => t.text));
  expect(read).toHaveLength(pages);
  // The footer stands on each page, behind its text.
  const foot = together([NAMES.Total]);
  const text = read.map((page) => {
    const all = together(page);
    expect(all.endsWith(foot)).toBe(true);
    return all.slice(0, -foot.length);
  });
  expect(together(text)).toBe(together(await docxText(docx)));
});

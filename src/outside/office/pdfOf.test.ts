import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { pdfTexts } from "../../../tests/pdfPages";
import { madeDocx, p, r, table } from "../docx/testDocx";
import { closeOffice, NoPdf, pdfOf } from ".";

jest.setTimeout(60_000);
afterAll(closeOffice);

it("makes a PDF of which the text can be read, one after the other, however many are asked at once", async () => {
  const docs = await Promise.all(
    ["Rope makers", "Harbour bell", "Žižek & Söhne"].map((name) =>
      madeDocx(p(`Lent: ${name}`) + table(["a", "b"])),
    ),
  );
  const made = await Promise.all(docs.map(pdfOf));
  const texts = await Promise.all(made.map(({ pdf }) => pdfTexts(pdf)));
  expect(
    texts.map((t) =>
      t
        .flat()
        .map((x) => x.text)
        .join(" "),
    ),
  ).toEqual([
    expect.stringContaining("Lent: Rope makers"),
    expect.stringContaining("Lent: Harbour bell"),
    expect.stringContaining("Lent: Žižek & Söhne"),
  ]);
  expect(made.map((m) => m.pages)).toEqual([1, 1, 1]);
});

it("says that a document is too long, or cannot be read, and makes the next one", async () => {
  const long = await madeDocx(`<w:p><w:pPr><w:pageBreakBefore/></w:pPr>${r("A page")}</w:p>`.repeat(501));
  await expect(pdfOf(long)).rejects.toMatchObject({ why: "long", pages: 501 });
  await expect(pdfOf(Buffer.from("no document"))).rejects.toBeInstanceOf(NoPdf);
  expect((await pdfOf(await madeDocx(p("Next")))).pages).toBe(1);
});

it("fetches nothing that a document names", async () => {
  let asked = 0;
  const server = createServer((_, res) => {
    asked++;
    res.end();
  });
  await new Promise<void>((done) => void server.listen(0, "127.0.0.1", done));
  const { port } = server.address() as AddressInfo;
  const picture = `<w:r><w:drawing><wp:inline><wp:extent cx="900000" cy="900000"/><wp:docPr id="1" name="x"/><a:graphic><a:graphicData uri="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:pic xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:nvPicPr><pic:cNvPr id="1" name="x"/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip r:link="rPic"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="900000" cy="900000"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>`;
  const relations = `<Relationship Id="rPic" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/image" Target="http://127.0.0.1:${port}/x.png" TargetMode="External"/>`;
  const { pages } = await pdfOf(await madeDocx(p("Picture", picture), { relations }));
  server.close();
  expect({ pages, asked }).toEqual({ pages: 1, asked: 0 });
});

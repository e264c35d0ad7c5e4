import JSZip from "jszip";
import sharp from "sharp";
import { withSignature } from "@/core/document";
import { fillDocx, readDocx } from ".";
import { docxText, filledBy, madeDocx, p, table } from "./testDocx";

const picture = async () => ({
  bytes: await sharp({ create: { width: 40, height: 10, channels: 3, background: "#1d2733" } })
    .png()
    .toBuffer(),
  width: 40,
  height: 10,
});
const media = async (docx: Buffer) =>
  Object.keys((await JSZip.loadAsync(docx)).files).filter((name) => /media\/.+\.png$/.test(name));

it("stands behind all pages, each who signed with their picture, and before how the last are laid out", async () => {
  const bytes = await madeDocx(p("Lent to {Borrower}") + table(["{for each Objects}{Name}{end}"]));
  const { tags } = await readDocx(bytes);
  const filled = filledBy(tags, { Borrower: "Una", Objects: [{ Name: "Bell" }] });
  const entries = [
    { picture: "s1", lines: ["Orla Fennimore", "3 March 2026"] },
    { picture: null, lines: ["{Borrower} & \uf8f0v0\uf8f1 <b>", "two\nlines"] },
  ];
  const pictures = new Map([["s1", await picture()]]);
  const made = await fillDocx({ bytes, tags, filled, pictures, closing: { title: "Signed", entries } });
  expect(await docxText(made)).toEqual([
    "Lent to Una",
    "Bell",
    "Signed",
    "",
    "Orla Fennimore",
    "3 March 2026",
    // What stands there is never read as a tag, nor as markup.
    "{Borrower} & v0 <b>",
    "two\nlines",
  ]);
  expect(await media(made)).toHaveLength(1);
  const xml = await (await JSZip.loadAsync(made)).file("word/document.xml")!.async("string");
  expect(xml.lastIndexOf("<w:sectPr")).toBeGreaterThan(xml.lastIndexOf("lines"));
  expect(xml.match(/<w:pageBreakBefore\s*\/>/g)).toHaveLength(1);
});

it("a signature goes into its places alone, also in what is repeated or left out on a condition", async () => {
  const bytes = await madeDocx(
    p("{picture Sign, 50 mm}") + p("{if Yes}{picture Sign}{end}") + p("{picture Other}"),
  );
  const { tags } = await readDocx(bytes);
  const before = [
    { picture: null, signs: "f1" },
    { holds: true, parts: [{ picture: "old", signs: "f1" }] },
    { picture: "other", signs: "f2" },
  ];
  const filled = withSignature(before, "f1", "s1");
  expect(filled).toEqual([
    { picture: "s1", signs: "f1" },
    { holds: true, parts: [{ picture: "s1", signs: "f1" }] },
    { picture: "other", signs: "f2" },
  ]);
  expect(withSignature([{ times: [before, ["x"]] }], "f1", "s1")).toEqual([{ times: [filled, ["x"]] }]);
  expect(before[0]).toEqual({ picture: null, signs: "f1" });
  const pictures = new Map([["s1", await picture()]]);
  const made = await fillDocx({ bytes, tags, filled, pictures });
  const xml = await (await JSZip.loadAsync(made)).file("word/document.xml")!.async("string");
  expect(xml.match(/<w:drawing>/g)).toHaveLength(2);
});

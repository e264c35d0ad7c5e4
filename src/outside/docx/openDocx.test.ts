import JSZip from "jszip";
import { readDocx } from ".";
import { madeDocx, p } from "./testDocx";

const REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const relation = (type: string, more: string) =>
  `<Relationship Id="rX" Type="${REL}/${type}" Target="http://elsewhere.example/x" ${more}/>`;
const why = async (bytes: Buffer): Promise<string> =>
  readDocx(bytes).then(
    () => "taken",
    (e: { why?: string }) => e.why ?? String(e),
  );
const withRelation = (type: string, more = 'TargetMode="External"') =>
  madeDocx(p("{Total}"), { relations: relation(type, more) });
/** The file with one of its parts written anew. */
async function changed(part: string, write: (text: string) => string | Buffer): Promise<Buffer> {
  const zip = await JSZip.loadAsync(await madeDocx(p("{Total}")));
  zip.file(part, write(await zip.file(part)!.async("string")));
  return zip.generateAsync({ type: "nodebuffer" });
}

it("takes what word processors save: links to be pressed, and where their own template lay", async () => {
  expect(await why(await withRelation("hyperlink"))).toBe("taken");
  expect(await why(await withRelation("attachedTemplate"))).toBe("taken");
});

it.each([
  ["a picture from elsewhere", () => withRelation("image"), "elsewhere.example"],
  ["one told in another way", () => withRelation("image", 'TargetMode="Ex&#116;ernal"'), "elsewhere.example"],
  ["one in single quotes", () => withRelation("image", "TargetMode='External'"), "elsewhere.example"],
  ["a document that is read in", () => withRelation("aFChunk", ""), "another document"],
  ["an object of another program", () => withRelation("oleObject", ""), "another document"],
  [
    "a field that reads something in, split",
    () =>
      madeDocx(
        "<w:p><w:r><w:instrText>INCLUDE</w:instrText></w:r><w:r><w:instrText>TEXT http://x</w:instrText></w:r></w:p>",
      ),
    "a field",
  ],
  [
    "a field that starts a program",
    () => madeDocx('<w:p><w:fldSimple w:instr=" DDEAUTO x y"/></w:p>'),
    "a field",
  ],
  [
    "relations in an encoding that hides them",
    () => changed("word/_rels/document.xml.rels", (t) => Buffer.from(`\ufeff${t}`, "utf16le")),
    "no word processor writes",
  ],
  [
    "entities",
    () => changed("word/document.xml", (t) => t.replace("?>", '?><!DOCTYPE x [<!ENTITY a "a">]>')),
    "no word processor writes",
  ],
  ["what is no XML", () => changed("word/document.xml", () => "<w:document"), "damaged"],
  [
    "strict Open XML",
    () =>
      changed("word/document.xml", (t) =>
        t.replace(
          "http://schemas.openxmlformats.org/wordprocessingml/2006/main",
          "http://purl.oclc.org/ooxml/wordprocessingml/main",
        ),
      ),
    "rarer form",
  ],
])("refuses %s", async (_, bytes, said) => {
  expect(await why(await bytes())).toContain(said);
});

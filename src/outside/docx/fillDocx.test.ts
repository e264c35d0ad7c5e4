import { fillDocx, readDocx } from ".";
import { docxText, filledBy, madeDocx, p, table } from "./testDocx";
import { NAMES, SHAPES } from "./testShapes";

const filledText = async (bytes: Buffer, part?: string): Promise<string[]> => {
  const { tags } = await readDocx(bytes);
  const filled = filledBy(tags, NAMES);
  return docxText(await fillDocx({ bytes, tags, filled, pictures: new Map() }), part);
};

it.each(Object.entries(SHAPES))("fills in %s", async (_, { body, gives }) => {
  expect(await filledText(await madeDocx(body))).toEqual(gives);
});

it("fills in headers and footers, in which what is repeated ends as well", async () => {
  const bytes = await madeDocx(p("{Total}"), {
    header: p("{for each Objects}{Name} {end}"),
    footer: table(["{Borrower}"]) + p(""),
  });
  expect(await filledText(bytes, "word/header1.xml")).toEqual(["Rope makers Harbour bell "]);
  expect(await filledText(bytes, "word/footer1.xml")).toEqual(["Una Quirke & Sons <Ltd>", ""]);
  const { tags } = await readDocx(bytes);
  expect(tags.map((t) => t.in)).toEqual(["text", "header", "header", "header", "footer"]);
});

it("never reads a value as a tag", async () => {
  const bytes = await madeDocx(table(["{for each Objects}{Name}", "{Value}{end}"]));
  const { tags } = await readDocx(bytes);
  const tricky = ["{Total}", "\uf8f0v0\uf8f1", "#b0", "{end}", "\u0001"];
  const filled = filledBy(tags, { Objects: tricky.map((Name) => ({ Name, Value: Name })) });
  const text = await docxText(await fillDocx({ bytes, tags, filled, pictures: new Map() }));
  expect(text).toEqual(["{Total}", "v0", "#b0", "{end}", ""].flatMap((x) => [x, x]));
});

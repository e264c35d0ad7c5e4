import { item, p, r, table } from "./testDocx";

/** What formulas of the shapes come to, by names. */
export const NAMES = {
  Borrower: "Una Quirke & Sons <Ltd>",
  Total: "1 240.00",
  "Courier needed": true,
  Fragile: false,
  Objects: [
    { Name: "Rope makers", Value: "200.00", Marks: [{ Mark: "A" }, { Mark: "B" }], Old: true },
    { Name: "Harbour bell", Value: "1 040.00", Marks: [], Old: false },
  ],
  Nothing: [],
  Address: "1 Quay Street\nLakeside",
};
const box = (text: string): string =>
  `<w:r><mc:AlternateContent><mc:Choice Requires="wps"><w:drawing><wp:anchor><a:graphic><a:graphicData><wps:wsp><wps:txbx><w:txbxContent>${text}</w:txbxContent></wps:txbx></wps:wsp></a:graphicData></a:graphic></wp:anchor></w:drawing></mc:Choice><mc:Fallback><w:pict><v:textbox><w:txbxContent>${text}</w:txbxContent></v:textbox></w:pict></mc:Fallback></mc:AlternateContent></w:r>`;

/** What a word processor saves, and the paragraphs that should stand there afterwards. */
export const SHAPES: Readonly<Record<string, { body: string; gives: string[] }>> = {
  "a tag in one run": { body: p("To {Borrower}."), gives: ["To Una Quirke & Sons <Ltd>."] },
  "two tags in one run": {
    body: p("{Borrower}: {Total}"),
    gives: ["Una Quirke & Sons <Ltd>: 1 240.00"],
  },
  "a tag split over runs": {
    body: p("Sum {", "To", "tal", "} EUR"),
    gives: ["Sum 1 240.00 EUR"],
  },
  "a tag split by spelling marks": {
    body: p("{Tot", '<w:proofErr w:type="spellStart"/>', "al}", '<w:proofErr w:type="spellEnd"/>'),
    gives: ["1 240.00"],
  },
  "a tag of which each letter looks otherwise": {
    body: `<w:p>${[..."{Total}"].map((c, i) => r(c, i % 2 ? "<w:b/>" : "<w:i/>")).join("")}</w:p>`,
    gives: ["1 240.00"],
  },
  "a bookmark amid a tag": {
    body: p("{To", '<w:bookmarkStart w:id="1" w:name="x"/><w:bookmarkEnd w:id="1"/>', "tal}"),
    gives: ["1 240.00"],
  },
  "a tag partly in a link": {
    body: p("{To", `<w:hyperlink>${r("tal}")}</w:hyperlink>`, " due"),
    gives: ["1 240.00 due"],
  },
  "a tag of which part was inserted, and part deleted": {
    body: p(
      "{T",
      `<w:ins w:id="1" w:author="a">${r("ot")}</w:ins>`,
      '<w:del w:id="2" w:author="a"><w:r><w:delText>xx</w:delText></w:r></w:del>',
      "al}",
    ),
    gives: ["1 240.00"],
  },
  "a paragraph that was moved away": {
    body:
      p(`<w:moveFrom w:id="1">${r("{Total}")}</w:moveFrom>`, "left") +
      p(`<w:moveTo w:id="2">${r("{Total}")}</w:moveTo>`),
    gives: ["left", "1 240.00"],
  },
  "a tag in a content control": {
    body: p(
      `<w:sdt><w:sdtPr><w:alias w:val="x"/></w:sdtPr><w:sdtContent>${r("{Total}")}</w:sdtContent></w:sdt>`,
      " EUR",
    ),
    gives: ["1 240.00 EUR"],
  },
  "a block in a content control": {
    body: `<w:sdt><w:sdtPr/><w:sdtContent>${p("{for each Objects}")}${p("{Name}")}${p("{end}")}</w:sdtContent></w:sdt>`,
    gives: ["Rope makers", "Harbour bell"],
  },
  "a row in a content control": {
    body: `<w:tbl><w:sdt><w:sdtPr/><w:sdtContent><w:tr><w:tc>${p("{for each Objects}{Name}")}</w:tc><w:tc>${p("{Value}{end}")}</w:tc></w:tr></w:sdtContent></w:sdt></w:tbl>`,
    gives: ["Rope makers", "200.00", "Harbour bell", "1 040.00"],
  },
  "a tag in a text box, which stands there twice for older programs": {
    body: p(box(p("{Total}")), "beside"),
    gives: ["beside", "1 240.00"],
  },
  "a text box amid a repeated paragraph": {
    body: p("{for each Objects}") + p(box(p("{Name}")), "no. {number}") + p("{end}"),
    gives: ["no. 1", "Rope makers", "no. 2", "Harbour bell"],
  },
  "a row for each": {
    body: table(["Name", "Value"], ["{for each Objects}{Name}", "{Value}{end}"], ["All", "{Total}"]),
    gives: ["Name", "Value", "Rope makers", "200.00", "Harbour bell", "1 040.00", "All", "1 240.00"],
  },
  "rows for each, between rows that hold the tags alone": {
    body: table(["{for each Objects}", ""], ["{number}", "{Name}"], ["", "{end}"]),
    gives: ["1", "Rope makers", "2", "Harbour bell"],
  },
  "two rows for each": {
    body: table(["{for each Objects}{Name}", "a"], ["{Value}", "b{end}"]),
    gives: ["Rope makers", "a", "200.00", "b", "Harbour bell", "a", "1 040.00", "b"],
  },
  "merged cells": {
    body: `<w:tbl><w:tr><w:tc><w:tcPr><w:gridSpan w:val="2"/></w:tcPr>${p("{for each Objects}{Name}")}</w:tc><w:tc>${p("{Value}{end}")}</w:tc></w:tr></w:tbl>`,
    gives: ["Rope makers", "200.00", "Harbour bell", "1 040.00"],
  },
  "no row for nothing, and no table left without rows": {
    body: p("Before") + table(["{for each Nothing}{Name}", "{Value}{end}"]) + p("After"),
    gives: ["Before", "After"],
  },
  "a table in a cell": {
    body: table(["Outer", table(["{for each Objects}{Name}", "{Value}{end}"]) + p("")]),
    gives: ["Outer", "Rope makers", "200.00", "Harbour bell", "1 040.00", ""],
  },
  "a list in a cell": {
    body: table([item("{for each Objects}{Name}{end}"), "x"]),
    gives: ["Rope makers", "Harbour bell", "x"],
  },
  "nothing in a cell": {
    body: table([item("{for each Nothing}{Name}{end}"), "x"]),
    gives: ["", "x"],
  },
  "an item of a list for each": {
    body: item("{for each Objects}{Name}: {Value}{end}") + p("Done"),
    gives: ["Rope makers: 200.00", "Harbour bell: 1 040.00", "Done"],
  },
  "paragraphs for each, the tags in their own": {
    body: p("{for each Objects}") + p("{number}. {Name}") + p("worth {Value}") + p("{end}") + p("Done"),
    gives: ["1. Rope makers", "worth 200.00", "2. Harbour bell", "worth 1 040.00", "Done"],
  },
  "paragraphs for each, the tags at their ends": {
    body: p("{for each Objects}{Name}") + p("worth {Value}{end}"),
    gives: ["Rope makers", "worth 200.00", "Harbour bell", "worth 1 040.00"],
  },
  "for each amid a paragraph": {
    body: p("Lent: {for each Objects}{Name}, {end}and no more."),
    gives: ["Lent: Rope makers, Harbour bell, and no more."],
  },
  "for each within for each, in rows": {
    body: table(["{for each Objects}{Name}", "{for each Marks}{Mark} {end}{end}"]),
    gives: ["Rope makers", "A B ", "Harbour bell", ""],
  },
  "for each within for each, in paragraphs": {
    body:
      p("{for each Objects}") +
      p("{Name}") +
      p("{for each Marks}") +
      p("{number} {Mark}") +
      p("{end}") +
      p("{end}"),
    gives: ["Rope makers", "1 A", "2 B", "Harbour bell"],
  },
  "what holds, and what does not": {
    body: p("{if Courier needed}By courier.{end}") + p("{if Fragile}Fragile.{end}") + p("End"),
    gives: ["By courier.", "End"],
  },
  "the other part, amid a paragraph": {
    body: p("It is {if Fragile}fragile{otherwise}sturdy{end}."),
    gives: ["It is sturdy."],
  },
  "the other part, in paragraphs": {
    body: p("{if Fragile}") + p("Fragile.") + p("{otherwise}") + p("Sturdy.") + p("{end}") + p("End"),
    gives: ["Sturdy.", "End"],
  },
  "the first part, in paragraphs": {
    body: p("{if Courier needed}") + p("By {Borrower}.") + p("{otherwise}") + p("Fetched.") + p("{end}"),
    gives: ["By Una Quirke & Sons <Ltd>."],
  },
  "the other part, in rows": {
    body: table(["{if Fragile}", ""], ["a", "b"], ["{otherwise}", ""], ["c", "{Total}"], ["", "{end}"]),
    gives: ["c", "1 240.00"],
  },
  "a condition within for each, in a row": {
    body: table(["{for each Objects}{Name}", "{if Old}old{otherwise}new{end}{end}"]),
    gives: ["Rope makers", "old", "Harbour bell", "new"],
  },
  "a condition around rows for each": {
    body: p("{if Courier needed}") + table(["{for each Objects}{Name}", "{Value}{end}"]) + p("{end}"),
    gives: ["Rope makers", "200.00", "Harbour bell", "1 040.00"],
  },
  "a condition within one that is the whole of a paragraph": {
    body: p("{if Courier needed}{if Fragile}Fragile.{end}{end}") + p("End"),
    gives: ["", "End"],
  },
  "a condition that is all of what is repeated amid a paragraph": {
    body: p("{for each Objects}{if Old}{Name}{end}{end}") + p("End"),
    gives: ["Rope makers", "End"],
  },
  "an item of a list that is left out, and one with another part": {
    body: item("{if Fragile}Fragile.{end}") + item("{if Fragile}Fragile.{otherwise}Sturdy.{end}"),
    gives: ["Sturdy."],
  },
  "two blocks in one paragraph": {
    body: p("{for each Objects}{Name}; {end}{for each Objects}{Value}; {end}"),
    gives: ["Rope makers; Harbour bell; 200.00; 1 040.00; "],
  },
  "a value of several lines": { body: p("At {Address}."), gives: ["At 1 Quay Street\nLakeside."] },
  "right to left": {
    body: `<w:p><w:pPr><w:bidi/></w:pPr><w:r><w:rPr><w:rtl/></w:rPr><w:t>סך {Tot</w:t></w:r><w:r><w:rPr><w:rtl/></w:rPr><w:t>al}</w:t></w:r></w:p>`,
    gives: ["סך 1 240.00"],
  },
  "two braces for one": { body: p("As {{this}, and {Total}"), gives: ["As {this}, and 1 240.00"] },
  "spaces that hold together, and marks that nobody sees": {
    body: p("{if Courier\u00a0needed}yes{end} {\u200bTotal\u200b}"),
    gives: ["yes 1 240.00"],
  },
  "a brace that is never closed": { body: p("As { and {Total}"), gives: ["As { and {Total}"] },
};

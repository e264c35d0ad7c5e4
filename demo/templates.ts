import {
  AlignmentType,
  Document,
  Footer,
  HeadingLevel,
  Packer,
  PageNumber,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from "docx";
import type { DocumentTemplate } from "@/core/document";
import { bringTemplate, SYSTEM } from "@/services";

const FONT = "Calibri";
const LINE = { style: "single", size: 4, color: "8a8578" } as const;
const NONE = { style: "none", size: 0, color: "auto" } as const;

const STYLES = {
  default: {
    document: { run: { font: FONT, size: 22 } },
    heading1: { run: { font: FONT, size: 36, color: "3d4a2a" }, paragraph: { spacing: { after: 200 } } },
    heading2: {
      run: { font: FONT, size: 26, color: "3d4a2a" },
      paragraph: { spacing: { before: 240, after: 80 } },
    },
  },
};

const text = (words: string, bold = false) => new TextRun({ text: words, bold });
const line = (words: string, space = 120) =>
  new Paragraph({ children: [text(words)], spacing: { after: space } });
const heading = (words: string) => new Paragraph({ text: words, heading: HeadingLevel.HEADING_2 });
const cell = (words: string, percent: number, more: { bold?: boolean; right?: boolean } = {}) =>
  new TableCell({
    width: { size: percent, type: WidthType.PERCENTAGE },
    margins: { top: 40, bottom: 40, left: 60, right: 60 },
    children: [
      new Paragraph({
        alignment: more.right ? AlignmentType.RIGHT : AlignmentType.LEFT,
        children: [text(words, more.bold)],
      }),
    ],
  });

/** A table with lines between its rows. */
const ruled = (rows: TableRow[]) =>
  new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    borders: {
      top: LINE,
      bottom: LINE,
      left: NONE,
      right: NONE,
      insideHorizontal: LINE,
      insideVertical: NONE,
    },
    rows,
  });

/** What the museums sign when they lend: a row for each object that was agreed, its value, both signatures. */
function loanAgreement(): Document {
  const objects = ruled([
    new TableRow({
      tableHeader: true,
      children: [
        cell("", 8, { bold: true }),
        cell("Accession number", 24, { bold: true }),
        cell("Object", 46, { bold: true }),
        cell("Insured value, EUR", 22, { bold: true, right: true }),
      ],
    }),
    new TableRow({
      cantSplit: true,
      children: [
        cell("{for each Decided objects[agreed = true]}{number}", 8),
        cell("{object.Accession number}", 24),
        cell("{object.Title}", 46),
        cell('{format(value, "#,##0.00")}{end}', 22, { right: true }),
      ],
    }),
    new TableRow({
      children: [
        cell("", 8),
        cell("", 24),
        cell("All together", 46, { bold: true }),
        cell('{format(sum(Decided objects[agreed = true].value), "#,##0.00")}', 22, {
          bold: true,
          right: true,
        }),
      ],
    }),
  ]);
  const signs = new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    borders: {
      top: NONE,
      bottom: NONE,
      left: NONE,
      right: NONE,
      insideHorizontal: NONE,
      insideVertical: NONE,
    },
    rows: [
      new TableRow({
        cantSplit: true,
        children: [
          cell("For the borrower: {picture Signature, 50 mm}", 50),
          cell("For Quillhaven Museums: {Registry checks.by.name}, {Registry checks.by.job title}", 50),
        ],
      }),
    ],
  });
  return new Document({
    creator: "Quillhaven Museums",
    title: "Loan agreement",
    styles: STYLES,
    sections: [
      {
        footers: {
          default: new Footer({
            children: [
              new Paragraph({
                children: [
                  text("Quillhaven Museums, loan {Request.number}, page "),
                  new TextRun({ children: [PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES] }),
                ],
              }),
            ],
          }),
        },
        children: [
          new Paragraph({ text: "Loan agreement", heading: HeadingLevel.HEADING_1 }),
          line(
            'Quillhaven Museums lend to {Borrower.Institution} for the exhibition “{Exhibition}”, from {format(Starts, "d MMMM yyyy")} to {format(Ends, "d MMMM yyyy")}, what is listed below.',
          ),
          heading("Objects"),
          objects,
          heading("Care"),
          line("{if Climate report on file}"),
          line("The climate of the rooms is as in the report that is on file."),
          line("{otherwise}"),
          line("The climate is kept thus: {How the climate is kept}"),
          line("{end}"),
          line(
            "{if Courier needed}A courier goes along{if Who goes along != null}: {Who goes along.name}{end}. {Courier instructions}{end}",
          ),
          line(
            "The borrower insures the objects for the values above from when they leave until they are back, and touches them only to set them up.",
            240,
          ),
          signs,
        ],
      },
    ],
  });
}

/** What whoever borrows for the first time gets: how we lend, and what they borrowed so far. */
function welcomeFolder(): Document {
  const loans = ruled([
    new TableRow({
      tableHeader: true,
      children: [
        cell("Loan", 25, { bold: true }),
        cell("From", 25, { bold: true }),
        cell("To", 25, { bold: true }),
        cell("Insured for, EUR", 25, { bold: true, right: true }),
      ],
    }),
    new TableRow({
      cantSplit: true,
      children: [
        cell("{for each Loans so far}{File number}", 25),
        cell('{format(Starts, "d MMM yyyy")}', 25),
        cell('{format(Ends, "d MMM yyyy")}', 25),
        cell('{format(Total insured value, "#,##0.00")}{end}', 25, { right: true }),
      ],
    }),
  ]);
  return new Document({
    creator: "Quillhaven Museums",
    title: "Welcome folder",
    styles: STYLES,
    sections: [
      {
        children: [
          new Paragraph({ text: "Welcome, {New borrower.name}", heading: HeadingLevel.HEADING_1 }),
          line(
            "{if New borrower.Contact != null}Dear {New borrower.Contact}, {end}Quillhaven Museums are glad to lend to you. This folder says how.",
          ),
          heading("How we lend"),
          line(
            "Ask for a loan at least three months ahead, with the rooms and the weeks in which objects are shown.",
          ),
          line(
            "Objects are insured by you for the value in the agreement, from when they leave us until they are back.",
          ),
          line(
            "Only whoever sets them up touches them, and a report of their condition is made when they come and when they go.",
          ),
          line("{if What they should know != null}"),
          heading("For you"),
          line("{What they should know}"),
          line("{end}"),
          line("{if count(Loans so far) > 0}"),
          heading("What you borrowed so far"),
          loans,
          line("{otherwise}"),
          line("This is your first loan from us."),
          line("{end}"),
          line("", 240),
          line("For Quillhaven Museums:", 60),
          line("{picture For the museums, 50 mm}"),
          line("For the borrower:", 60),
          line("{picture For the borrower, 50 mm}"),
        ],
      },
    ],
  });
}

/** What whoever has a key keeps until it is back. */
function keyReceipt(): Document {
  const fact = (name: string, value: string) =>
    new TableRow({ cantSplit: true, children: [cell(name, 30), cell(value, 70, { bold: true })] });
  return new Document({
    creator: "Quillhaven Museums",
    title: "Key receipt",
    styles: STYLES,
    sections: [
      {
        children: [
          new Paragraph({ text: "Key receipt {Request.number}", heading: HeadingLevel.HEADING_1 }),
          line("{Requester.name} has been given the key below, and brings it back by the date said here."),
          ruled([
            fact("Store", "{Store.name}"),
            fact("Key", '{if Key number = null then "not numbered" else Key number}'),
            fact("From", '{format(From, "d MMMM yyyy")}'),
            fact("Back by", '{format(Until, "d MMMM yyyy")}'),
            fact("Handed over by", "{Hand over the key.by.name}"),
          ]),
          line("{if Remarks of the keeper != null}", 0),
          heading("Remarks"),
          line("{Remarks of the keeper}"),
          line("{end}", 0),
          line("{if Received != null}", 0),
          line("Received:", 60),
          line("{picture Received, 50 mm}"),
          line("{end}", 0),
        ],
      },
    ],
  });
}

/** The templates of the demo, by process. */
const TEMPLATES: Readonly<Record<string, { id: string; name: string; made: () => Document }>> = {
  "object-loan": { id: "agreement", name: "Loan agreement", made: loanAgreement },
  "store-key": { id: "receipt", name: "Key receipt", made: keyReceipt },
  "new-borrower": { id: "welcome", name: "Welcome folder", made: welcomeFolder },
};

/** Brings the template of a process in, as its owner would; null where it has none. */
export async function demoTemplate(process: string): Promise<DocumentTemplate | null> {
  const of = TEMPLATES[process];
  if (!of) return null;
  const bytes = await Packer.toBuffer(of.made());
  const came = await bringTemplate(SYSTEM, process, of.id, `${of.name}.docx`, bytes);
  if (!came.ok) throw new Error(`${of.name}: ${JSON.stringify(came.failure)}`);
  const { file, tags } = came.value;
  return { id: of.id, name: of.name, file, tags };
}

import { performance } from "node:perf_hooks";
import type { Filled } from "@/core/document";
import { fillDocx, readDocx } from "@/outside/docx";
import { closeOffice, pdfOf } from "@/outside/office";
import { labelsPdf } from "@/outside/pdf";
import { filledBy, madeDocx, p, table } from "../../src/outside/docx/testDocx";

/** A loan agreement of three pages with a table of objects: as DOCX and as PDF, warm; one of thousands of rows; labels. */
const TIMES = 15;
const TERMS = "The borrower insures the objects from when they leave until they are back. ".repeat(12);

const body =
  p("Loan agreement with {Borrower}, {Total} EUR") +
  table(["", "Object", "Value"], ["{for each Objects}{number}", "{Name}", "{Value}{end}"]) +
  Array.from({ length: 12 }, (_, i) => p(`${i + 1}. {if Courier}With a courier. {end}${TERMS}`)).join("");

async function run(): Promise<void> {
  const bytes = await madeDocx(body, { footer: p("{Number}") });
  const { tags } = await readDocx(bytes);
  const names = (rows: number) => ({
    Borrower: "Velmar City Museum",
    Total: "955.00",
    Number: "LOAN-0042",
    Courier: true,
    Objects: Array.from({ length: rows }, (_, i) => ({ Name: `Object ${i}, woodcut`, Value: `${i}.00` })),
  });
  const made = (rows: number) => {
    const filled: Filled[] = filledBy(tags, names(rows));
    return fillDocx({ bytes, tags, filled, pictures: new Map() });
  };
  const docx = await made(40);
  const fill = await median(() => made(40));
  const { pages } = await pdfOf(docx);
  const pdf = await median(() => pdfOf(docx));
  say(`${pages} pages with 40 rows: DOCX ${ms(fill)} (budget 150 ms), PDF ${ms(pdf)} (budget 2000 ms)`);
  const many = performance.now();
  const long = await made(5000);
  const filled = performance.now() - many;
  const printing = performance.now();
  const { pages: all } = await pdfOf(long);
  say(`${all} pages with 5,000 rows: DOCX ${ms(filled)}, PDF ${ms(performance.now() - printing)}`);
  await closeOffice();
  const laid = performance.now();
  const sheet = { title: "Labels", language: "en-IE", across: 3, down: 8, skip: 0, margin: 8 };
  const labels = Array.from({ length: 500 }, (_, i) => ({
    heading: `QH.2026.${i}`,
    lines: [`Rope maker's apron, ${i}`, "Old Ropeworks, shelf B 12", "Look at it by 7 December 2026"],
  }));
  await labelsPdf({ ...sheet, labels });
  say(`500 labels ${ms(performance.now() - laid)} (budget 5000 ms)`);
}

async function median(work: () => Promise<unknown>): Promise<number> {
  const out: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const began = performance.now();
    await work();
    out.push(performance.now() - began);
  }
  return out.sort((a, b) => a - b)[Math.floor(TIMES / 2)]!;
}
const ms = (n: number): string => `${n.toFixed(0)} ms`;
const say = (text: string): void => void process.stdout.write(`${text}\n`);

void run();

import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { chromium } from "@playwright/test";
import { build } from "esbuild";
import { Temporal } from "temporal-polyfill";
import {
  checkFormula,
  compile,
  environment,
  evaluate,
  listOf,
  context,
  Num,
  NUMBER,
  parseFormula,
  YESNO,
  type Value,
} from "../../src/core/expression";
import { CheckCache, problemsOf } from "../../src/core/problems";
import { applyEdit, type ProcessDefinition, type Step } from "../../src/core/route";
import { KINDS } from "../../src/kinds";
import { assignment } from "./assignment";
import { tables } from "./tables";
import { largeForm } from "./largeForm";

const median = (xs: number[]): number => [...xs].sort((a, b) => a - b)[Math.floor(xs.length / 2)]!;
const line = (what: string, measured: string, budget: string) =>
  process.stdout.write(`${what.padEnd(58)} ${measured.padEnd(34)} budget ${budget}\n`);
const time = (f: () => void): number => {
  const t = performance.now();
  f();
  return performance.now() - t;
};

function formulas() {
  const scope = { Total: NUMBER, Urgent: YESNO, Lines: listOf(context({ Quantity: NUMBER, Price: NUMBER })) };
  const rows = Array.from(
    { length: 500 },
    (_, i) =>
      new Map<string, Value>([
        ["Quantity", Num.of(1 + (i % 9))],
        ["Price", Num.of(`${i}.${i % 100}`)],
      ]),
  );
  const names = new Map<string, Value>([
    ["Total", Num.of("612.40")],
    ["Urgent", true],
    ["Lines", rows],
  ]);
  const env = () => environment(names, { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[UTC]") });
  const fixed = env();
  // What a programmer would write over the same data with the same decimals; inputs are read each time, as ours are.
  const [limit, rate, four] = ["500", "1.23", "4"].map((t) => Num.of(t)) as [Num, Num, Num];
  const num = (m: ReadonlyMap<string, Value>, k: string) => m.get(k) as Num;
  const cases: [string, number, () => unknown][] = [
    [
      "Total > 500 and Urgent",
      20_000,
      () => num(names, "Total").comparedTo(limit) > 0 && names.get("Urgent") === true,
    ],
    ["Total * 1.23 + 4", 20_000, () => num(names, "Total").times(rate).plus(four)],
    [
      "if Total > 500 then Total * 0.9 else Total",
      20_000,
      () =>
        num(names, "Total").comparedTo(limit) > 0 ? num(names, "Total").times(rate) : num(names, "Total"),
    ],
    [
      "sum(for l in Lines return l.Quantity * l.Price)",
      60,
      () =>
        (names.get("Lines") as typeof rows)
          .map((r) => num(r, "Quantity").times(num(r, "Price")))
          .reduce((a, b) => a.plus(b)),
    ],
    [
      "count(Lines[Quantity > 5 and Price < 100])",
      60,
      () =>
        (names.get("Lines") as typeof rows).filter(
          (r) => num(r, "Quantity").comparedTo(four) > 0 && num(r, "Price").comparedTo(limit) < 0,
        ).length,
    ],
  ];
  for (const [text, n, plain] of cases) {
    const program = compile(parseFormula(text, scope).ast!);
    const ours: number[] = [];
    const theirs: number[] = [];
    for (let k = 0; k < 25; k++) {
      ours.push(
        time(() => {
          for (let i = 0; i < n; i++) {
            fixed.fuel.left = 2_000_000;
            evaluate(program, fixed);
          }
        }) / n,
      );
      theirs.push(
        time(() => {
          for (let i = 0; i < n; i++) plain();
        }) / n,
      );
    }
    // The first rounds warm the parser up.
    const compiling = Array.from({ length: 600 }, (_, k) =>
      time(() => compile(checkFormula(`${text}${" ".repeat(k % 3)}`, scope).ast!)),
    ).slice(300);
    line(
      `formula ${text.slice(0, 48)}`,
      `${(median(ours) / median(theirs)).toFixed(2)}x plain (${(median(ours) * 1000).toFixed(1)} us), compile ${median(compiling).toFixed(2)} ms`,
      "3x, 0.3 ms",
    );
  }
}

async function bundle() {
  const made = await build({
    entryPoints: [join(import.meta.dirname, "formulaBundle.ts")],
    bundle: true,
    minify: true,
    format: "esm",
    target: "es2022",
    write: false,
  });
  const zipped = gzipSync(made.outputFiles[0]!.contents, { level: 9 }).length;
  line(
    "formulas in a browser: grammar, types, decimals, completion",
    `${(zipped / 1000).toFixed(1)} KB gzip`,
    "90 KB",
  );
}

function problems() {
  const route: Step[] = Array.from({ length: 100 }, (_, i) => [
    {
      id: `d${i}`,
      name: `Check ${i}`,
      kind: "decide" as const,
      who: { rule: { by: "manager" as const }, how: "one" as const },
      answers: [{ id: "y", label: "Yes", tone: "agree" as const, steps: [] }],
    },
    {
      id: `c${i}`,
      name: `Choice ${i}`,
      kind: "choose" as const,
      ways: [
        { id: `a${i}`, name: "a", when: `Amount ${i % 40} > ${i}`, steps: [] },
        { id: `b${i}`, name: "b", steps: [] },
      ],
    },
  ]).flat();
  let d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "large",
    name: "Large",
    purpose: "",
    owners: ["a"],
    numbering: { prefix: "LARGE", digits: 4 },
    title: "{Amount 1}",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: Array.from({ length: 40 }, (_, i) => ({
      id: `f${i}`,
      name: `Amount ${i}`,
      kind: "money" as const,
      ...(i > 0 && i % 2 ? { worked: `Amount ${i - 1} * 2` } : {}),
    })),
    access: {},
    samples: [],
    route: [...route, { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  };
  const office = {
    people: [{ id: "a", name: "A", manager: "a" }],
    groups: {},
    duties: {},
    calendars: ["office"],
    mailboxes: [],
  };
  const cold = time(() => problemsOf(d, { kinds: KINDS, registers: {}, office }));
  const cache = new CheckCache();
  problemsOf(d, { kinds: KINDS, registers: {}, office, cache });
  const after: number[] = [];
  for (let i = 0; i < 40; i++) {
    const step = d.route[1] as Extract<Step, { kind: "choose" }>;
    const patch = { when: `Amount 2 > ${1000 + i}` };
    const r = applyEdit(
      d,
      { op: "list.set", step: step.id, list: step.ways[0]!.id, patch },
      { registers: {}, kinds: KINDS },
    );
    if (r.ok) d = r.definition;
    after.push(time(() => problemsOf(d, { kinds: KINDS, registers: {}, office, cache })));
  }
  line(
    "problems of a 200-step process after one edit",
    `${median(after).toFixed(1)} ms (${(cold / median(after)).toFixed(0)} times faster than from nothing)`,
    "50 ms",
  );
}

async function keystroke() {
  const bundle = await build({
    entryPoints: ["scripts/bench/inBrowser.ts"],
    bundle: true,
    format: "iife",
    write: false,
    minify: true,
    target: "es2023",
    tsconfig: "tsconfig.json",
  });
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"],
  });
  const page = await browser.newPage();
  await page.addScriptTag({ content: bundle.outputFiles[0]!.text });
  for (const [asking, also] of [
    [0, ""],
    [20, ", 20 checks of records"],
  ] as const) {
    const { form, data } = largeForm(500, asking);
    const r = await page.evaluate(
      ([f, d]) =>
        (
          globalThis as unknown as {
            measure(f: unknown, d: unknown, n: number): { form: number[]; plain: number[] };
          }
        ).measure(f, d, 120),
      [form, data] as const,
    );
    const warm = { form: median(r.form.slice(20)), plain: median(r.plain.slice(20)) };
    line(
      `keystroke in a form of 100 fields and 500 lines${also}, Chromium`,
      `${warm.form.toFixed(1)} ms (${(warm.form / warm.plain).toFixed(1)}x the bare sums)`,
      "8 ms",
    );
  }
  await browser.close();
}

function people() {
  for (const { where, first, then, found } of assignment(time))
    line(
      `who of 10,000: ${where.slice(0, 42)}…`,
      `${median(then).toFixed(2)} ms, first ${first.toFixed(0)} ms, finds ${found}`,
      "5 ms",
    );
}

function decisionTables() {
  for (const { table, ms, came } of tables(time))
    line(
      `proof of ${table}`,
      `${median(ms).toFixed(0)} ms: ${came}`,
      table.startsWith("200") ? "200 ms" : "1,000 ms",
    );
}

async function main() {
  formulas();
  await bundle();
  if (process.argv.includes("formulas")) return;
  problems();
  people();
  decisionTables();
  await keystroke();
}
void main();

import {
  flatFields,
  isGroup,
  labelOf,
  prose,
  type Access,
  type Field,
  type FormData,
  type FormResult,
  type PassedShown,
  type SignatureShown,
  type Stored,
  type StoredRow,
} from "../form";
import type { Paper, PaperBlock, PaperFact, PaperTable } from "./paper";

/** A line of the trail, in words. */
export interface PaperTrail {
  when: string;
  says: string;
  note: string | null;
  changes: readonly string[];
}

/** Something that was written of it. */
export interface PaperLetter {
  when: string;
  /** From whom to whom. */
  who: string;
  subject: string;
  text: string;
  /** What came with it, by name. */
  files: readonly string[];
}

/** A request as one of its readers sees it: nothing in it is hidden from them. */
export interface RequestToPrint {
  number: string;
  title: string;
  /** What it is a request of, with the release. */
  process: string;
  /** Facts about it that stand first, in words. */
  about: readonly { name: string; value: string }[];
  fields: readonly Field[];
  access: Readonly<Record<string, Access>>;
  data: FormData;
  result: Pick<FormResult, "shown" | "texts" | "failed">;
  passed: readonly PassedShown[];
  signed: Readonly<Record<string, SignatureShown>>;
  /** By its file the picture of a signature, as a data URL. */
  ink: Readonly<Record<string, string>>;
  letters: readonly PaperLetter[];
  trail: readonly PaperTrail[];
  /** Who printed it, and when. */
  foot: string;
  language: string;
}

/** How values and moments read. */
export interface PaperWords {
  value(field: Field, stored: Stored | undefined): string;
  when(ms: number): string;
  /** Whether it is set like figures. */
  figures(field: Field): boolean;
  /** The sum of a column of numbers that are kept as text, as it reads. */
  sum(field: Field, of: readonly Stored[]): string;
}

/** Said in the place of what is not there. */
const NOTHING = "–";

/** The form of a request as its reader has it, and its trail, oldest first. */
export function requestPaper(r: RequestToPrint, words: PaperWords): Paper {
  return {
    title: r.title || r.number,
    above: `${r.number} · ${r.process}`,
    foot: r.foot,
    language: r.language,
    blocks: [
      { is: "facts", facts: r.about },
      ...passedBlocks(r.passed),
      ...blocksOf(r, r.fields, words),
      ...letterBlocks(r.letters),
      { is: "heading", text: "Trail", level: 2 },
      ...trailBlocks(r.trail),
    ],
  };
}

const passedBlocks = (passed: readonly PassedShown[]): PaperBlock[] =>
  passed.length === 0
    ? []
    : [
        { is: "heading", text: "Gone on past", level: 3 },
        { is: "list", items: passed.map((p) => `${p.say} ${p.by} went on all the same: ${p.why}`) },
      ];

/** Fields that follow each other are facts of one block; groups and tables stand between. */
function blocksOf(r: RequestToPrint, fields: readonly Field[], words: PaperWords): PaperBlock[] {
  const out: PaperBlock[] = [];
  const facts = (fact: PaperFact) => {
    const last = out.at(-1);
    if (last?.is === "facts") out[out.length - 1] = { ...last, facts: [...last.facts, fact] };
    else out.push({ is: "facts", facts: [fact] });
  };
  for (const f of fields) {
    if (!isSeen(r, f)) continue;
    if (isGroup(f)) {
      const inside = [...textBlocks(r, f), ...blocksOf(r, f.fields ?? [], words)];
      if (inside.length === 0) continue;
      if (f.kind !== "text block" || f.label) out.push({ is: "heading", text: labelOf(f), level: 2 });
      out.push(...inside);
    } else if (f.kind === "lines") {
      out.push({ is: "heading", text: labelOf(f), level: 3 }, linesTable(r, f, words));
    } else {
      facts(factOf(r, f, words));
    }
  }
  return out;
}

function factOf(r: RequestToPrint, f: Field, words: PaperWords): PaperFact {
  const name = labelOf(f);
  const signed = r.signed[f.id];
  if (signed && signed.value === r.data[f.id]) {
    const picture = Object.hasOwn(r.ink, signed.value) ? r.ink[signed.value] : undefined;
    return { name, value: signatureWords(signed, words), ...(picture ? { picture } : {}) };
  }
  return { name, value: r.result.failed.get(f.id) ?? (words.value(f, r.data[f.id]) || NOTHING) };
}

const isSeen = (r: RequestToPrint, f: Field): boolean =>
  (r.access[f.id] ?? "hide") !== "hide" && r.result.shown.has(f.id);

function textBlocks(r: RequestToPrint, f: Field): PaperBlock[] {
  const values = r.result.texts.get(f.id) ?? [];
  return [
    ...prose(f.text ?? "").map((b): PaperBlock => {
      const text = b.parts.map((p) => ("value" in p ? (values[p.value] ?? "") : partWords(p))).join("");
      if (b.as === "heading") return { is: "heading", text, level: 3 };
      return b.as === "item" ? { is: "list", items: [text] } : { is: "text", text };
    }),
    ...(f.picture ? [{ is: "text" as const, text: `Picture: ${f.picture.says}`, quiet: true as const }] : []),
  ];
}

/** On paper nobody follows a link: where it leads is said. */
const partWords = (p: { text: string; href?: string }): string =>
  p.href === undefined || p.href === p.text ? p.text : `${p.text} (${p.href})`;

function linesTable(r: RequestToPrint, f: Field, words: PaperWords): PaperTable {
  const columns = flatFields(f.fields ?? []).filter((c) => (r.access[c.id] ?? "hide") !== "hide");
  const kept = r.data[f.id];
  const rows: readonly StoredRow[] = Array.isArray(kept) ? kept : [];
  const cell = (c: Field, row: StoredRow): string =>
    r.result.failed.has(`${f.id}/${row["#"]}/${c.id}`) ? "cannot be worked out" : words.value(c, row[c.id]);
  const sums = columns.map((c) =>
    c.total
      ? words.sum(
          c,
          rows.map((row) => row[c.id] ?? null),
        )
      : "",
  );
  return {
    is: "table",
    head: [
      { name: "No.", figures: true },
      ...columns.map((c) => ({ name: labelOf(c), figures: words.figures(c) })),
    ],
    rows: rows.map((row, i) => [String(i + 1), ...columns.map((c) => cell(c, row))]),
    sums: columns.some((c) => c.total) && rows.length > 0 ? ["", ...sums] : null,
  };
}

function signatureWords(s: SignatureShown, { when }: PaperWords): string {
  const changed = [...s.changed, ...(s.beyond ? ["something you do not see"] : [])].join(", ");
  const stands = {
    true: "What was signed stands as it was.",
    null: "Some of what was signed has been blanked since.",
    false: changed ? `Changed after signing: ${changed}.` : "What stands here is not what was signed.",
  }[`${s.same}`];
  const hash = s.hash ? ` Fingerprint ${s.hash}.` : "";
  return `Given with the account of ${s.by}, ${when(s.at)}.${hash} ${stands}`;
}

function letterBlocks(letters: readonly PaperLetter[]): PaperBlock[] {
  if (letters.length === 0) return [];
  return [
    { is: "heading", text: "Conversation", level: 2 },
    ...letters.flatMap((l): PaperBlock[] => [
      { is: "heading", text: l.subject || "Without a subject", level: 3 },
      { is: "text", text: `${l.who}, ${l.when}`, quiet: true },
      { is: "text", text: l.text },
      ...(l.files.length > 0
        ? [{ is: "text" as const, text: `With ${l.files.join(", ")}`, quiet: true as const }]
        : []),
    ]),
  ];
}

function trailBlocks(trail: readonly PaperTrail[]): PaperBlock[] {
  if (trail.length === 0) return [{ is: "text", text: "Nothing has happened yet.", quiet: true }];
  return trail.flatMap((l): PaperBlock[] => [
    {
      is: "facts",
      facts: [{ name: l.when, value: [l.says, l.note && `“${l.note}”`].filter(Boolean).join("\n") }],
    },
    ...(l.changes.length > 0 ? [{ is: "list" as const, items: l.changes }] : []),
  ]);
}

import { Temporal } from "temporal-polyfill";
import { toNum, valueText } from "@/core/expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  readerNames,
  type Field,
  type FileFacts,
  type Stored,
} from "@/core/form";
import { requestPaper, type Paper, type PaperTrail, type PaperWords } from "@/core/paper";
import { files, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { pictureBytes } from "../files/contents/readContent";
import { shrunkPicture } from "../files/shrunkPicture";
import { personName } from "../kernel/directory";
import { defineUseCase } from "../kernel/defineUseCase";
import type { FormPage } from "../requests/formPage";
import { loadRequest } from "../requests/loadRequest";
import { formOf, readerOf, viewOf, type RequestView } from "../requests/requestView";
import type { ShownChange, ShownLine } from "../requests/trail";
import { valueSaid } from "../requests/valueSaid";
import { LANGUAGE, printPaper } from "./printPaper";
import { whenIn } from "./whenIn";

type View = Omit<RequestView, "form">;

/**
 * A request with its whole trail as a PDF, as whoever asks for it sees it on its page.
 * @throws Failed where they may not see it, or it is too long
 */
export const printedRequest = defineUseCase(
  ["see request", "watch", "write letter"],
  async (c, number: string): Promise<{ file: FileFacts; bytes: Buffer }> => {
    const loaded = await loadRequest(c, { number }, true);
    const reader = readerOf(loaded);
    const view = await viewOf(c, loaded, reader, Infinity);
    const form = await formOf(c, loaded, reader);
    const by = personName(loaded.d, c.actor.id);
    const ink = await inkOf(loaded.db, form);
    const bytes = await printPaper(paperOf(view, form, ink, by, c.actor.zone));
    const file = {
      id: number,
      name: `${number}.pdf`,
      size: bytes.length,
      type: "application/pdf",
      at: view.now,
    };
    return { file, bytes };
  },
);

/** Longer side of a signature in pixels, of the picture that is printed. */
const INK_SIDE = 680;
const INK_SECONDS = 5;

/** The pictures of the signatures a reader sees, as data URLs by their files; what is no picture has none. */
async function inkOf(db: Db, { signed = {}, data }: FormPage): Promise<Record<string, string>> {
  const out: Record<string, string> = {};
  for (const [id, { value }] of Object.entries(signed)) {
    const file = data[id] === value ? await files.fileById(db, value) : null;
    const bytes = file && (await pictureBytes(file));
    const made = bytes && (await shrunkPicture(bytes, { side: INK_SIDE, as: "png", seconds: INK_SECONDS }));
    if (made && typeof made !== "string")
      out[value] = `data:image/png;base64,${made.data.toString("base64")}`;
  }
  return out;
}

/** @param by whose eyes it is seen with, by name */
function paperOf(v: View, form: FormPage, ink: Record<string, string>, by: string, zone: string): Paper {
  const now = Temporal.Instant.fromEpochMilliseconds(form.now).toZonedDateTimeISO(zone);
  const facts = factsFrom(form.facts, { now }, KINDS.fields);
  const result = evaluateForm(
    compileForm(form.form, KINDS.fields),
    form.data,
    (id) => form.access[id] ?? "hide",
    facts,
    readerNames(form, facts, now),
  );
  const when = whenIn(zone);
  const said = (f: Field, stored: Stored | undefined): string => {
    const text = valueSaid(f, stored, facts);
    return text && KINDS.fields[f.kind].has.money ? `EUR ${text}` : text;
  };
  const words: PaperWords = {
    value: said,
    when,
    figures: (f) => KINDS.fields[f.kind].has.range === "number",
    sum(f, of) {
      const sum = of.reduce((n, x) => n.plus(toNum(String(x ?? "")) ?? NOUGHT), NOUGHT);
      return said(f, valueText(sum));
    },
  };
  return requestPaper(
    {
      number: v.number,
      title: v.title,
      process: `${v.process.name} ${v.process.version}`,
      about: [
        { name: "Asked by", value: `${v.requester.says}, ${when(v.startedAt)}` },
        { name: "State", value: stateOf(v, when) },
        ...v.waiting.map((w) => ({
          name: "Waits for",
          value: `${w.people.map((p) => p.name).join(", ") || "nobody"}: ${w.step}`,
        })),
      ],
      fields: form.form.fields,
      access: form.access,
      data: result.data,
      result: { ...result, failed: new Map([...Object.entries(form.failed), ...result.failed]) },
      passed: form.passed ?? [],
      signed: form.signed ?? {},
      ink,
      letters: v.letters.map((l) => ({
        when: when(l.at),
        who: `${l.from} to ${[...l.to, ...l.copies].join(", ") || "nobody"}`,
        subject: l.subject,
        text: l.text,
        files: l.files.map((f) => f.name),
      })),
      trail: v.trail.map((l) => lineOf(l, when)),
      foot: `${v.number} as ${by} sees it, printed ${when(v.now)}`,
      language: LANGUAGE,
    },
    words,
  );
}

const NOUGHT = toNum("0")!;

const stateOf = (v: View, when: (ms: number) => string): string => {
  const is = v.status === "finished" ? (v.result?.name ?? "finished") : v.status;
  return v.endedAt === null ? is : `${is}, ${when(v.endedAt)}`;
};

function lineOf(l: ShownLine, when: (ms: number) => string): PaperTrail {
  const says = l.by ? l.text : l.text.charAt(0).toUpperCase() + l.text.slice(1);
  return {
    when: when(l.at),
    says: [l.byName, says, l.round && `(${l.round})`].filter(Boolean).join(" "),
    note: l.note ?? null,
    changes: [...l.changes.map(changeWords), ...(l.more > 0 ? [`and ${l.more} more`] : [])],
  };
}

function changeWords({ name, from, to, row }: ShownChange): string {
  if (row) return `${name}: ${row === "added" ? "added" : "taken away"}`;
  return `${name}: ${from || "empty"}, now ${to || "empty"}`;
}

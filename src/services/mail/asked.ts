import { partsOfText, type WrittenLetter } from "@/core/letter";
import {
  answersOf,
  choicesOf,
  isOfStep,
  isOpen,
  levelOf,
  outsiderOf,
  proceduresFrom,
  releaseAt,
  roundText,
  type Outsider,
  type RequestState,
  type Task,
} from "@/core/engine";
import { isSaidInALine, type Field, type Stored } from "@/core/form";
import { stepKind } from "@/core/kinds";
import type { AnswerChoice, AskMail, Start } from "@/core/route";
import { nextInWords } from "@/core/words";
import { requests, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { nameIn } from "../requests/nameIn";
import { loadDirectory, type Directory } from "../kernel/directory";
import { proceduresAtHand } from "../requests/proceduresAtHand";
import { releaseFor } from "../requests/releases";
import { whereText } from "../requests/requestView";

const BY_LINK: AskMail = { subject: "", text: "", link: "free" };

/** A task that somebody is asked to answer by mail or in chat, as it stands now. */
export interface Asked {
  request: string;
  number: string;
  title: string;
  process: string;
  starts: readonly Start[];
  mailbox: string;
  step: string;
  /** The round it is of, in words; empty for none. */
  about: string;
  /** Whether this person may still answer it. */
  open: boolean;
  due: number | null;
  /** The last event so far. */
  seq: number;
  letter: { subject: string; text: string; written: WrittenLetter; hidden: boolean };
  byMail: AskMail;
  /** Who they are, where they do not work here. */
  outsider: Outsider | null;
  answers: (AnswerChoice & { then: string })[];
  /** What they fill in in chat beside it, as it stands. */
  fills: { field: Field; now: Stored }[];
  ended: RequestState["status"] | null;
  /** Why this person is not asked any more, in words; empty while they are. */
  over: string;
}

/** @returns null where there is no such task, or nobody is written to at its step any more */
export async function askedAt(db: Db, request: string, task: string, person: string): Promise<Asked | null> {
  const row = await requests.requestForCommand(db, { id: request }, false);
  if (!row) return null;
  const d: Directory = await loadDirectory(db, row.directory_version);
  const whole = await releaseFor(db, d, row.release_id);
  const procedures = await proceduresAtHand(db, d, whole, row.state);
  const level = levelOf(row.state, task);
  const t = level && Object.hasOwn(level.state.tasks, level.id) ? level.state.tasks[level.id] : undefined;
  if (!level || !t) return null;
  const release = releaseAt(level, whole, proceduresFrom(procedures));
  const step = release.places.get(t.step)?.step;
  const own = step && isOfStep(t) ? stepKind(KINDS, step).asks?.byMail(step) : undefined;
  const outsider = outsiderOf(row.state, person);
  // Whoever has no desk is always written to, and answers by a link.
  const byMail = outsider ? { ...own, ...BY_LINK } : own;
  if (!step || !byMail) return null;
  const next = nextInWords(release, t.step, row.state.requester);
  const { letter } = level.state.visits[t.visit] ?? {};
  const mayHave = t.candidates.some((c) => c.person === person) && (t.holder === null || t.holder === person);
  const open = isOpen(t) && mayHave;
  const about = t.about ?? roundText(level.state.scopes, t.scope ?? "");
  return {
    request: row.id,
    number: row.number,
    title: row.title,
    process: whole.definition.name,
    starts: whole.definition.starts,
    mailbox: whole.definition.mailbox ?? "",
    step: step.name,
    about: whereText(row.state, level, whole, proceduresFrom(procedures), about),
    open,
    due: t.due,
    seq: row.state.seq,
    letter: {
      subject: letter?.subject ?? "",
      text: letter?.text ?? "",
      written: letter?.letter ?? { language: "", parts: partsOfText(letter?.text ?? "") },
      hidden: letter?.hidden === true,
    },
    outsider,
    byMail,
    answers: answersOf(release, t).map((a) => ({
      ...a,
      then: next.find((n) => n.answer === a.label)?.then ?? "",
    })),
    fills: (byMail.fills ?? []).flatMap((id) => {
      const field = release.definition.fields.find((f) => f.id === id);
      const said = field && !field.worked && isSaidInALine(KINDS.fields[field.kind]);
      return said && release.access(t.step)(id) === "edit"
        ? [{ field, now: level.state.data[id] ?? null }]
        : [];
    }),
    ended: row.ended_at === null ? null : row.state.status,
    over: open ? "" : overText(t, level.state, choicesOf(release, t), nameIn(d, row.state)),
  };
}

/** What became of a task, for somebody who was asked. */
function overText(
  t: Task,
  { tasks }: RequestState,
  answers: readonly AnswerChoice[],
  name: (person: string) => string,
): string {
  const label = (id: string | undefined) => answers.find((a) => a.id === id)?.label ?? id ?? "";
  if (t.status === "answered") return `${label(t.answer)}, by ${t.by ? name(t.by) : "the time limit"}.`;
  if (isOpen(t)) {
    const has = t.holder === null ? t.candidates.map((c) => c.person) : [t.holder];
    return `It is with ${has.map(name).join(", ")} now.`;
  }
  // Another of those asked has settled it for all.
  const settled = Object.values(tasks).filter((x) => x.visit === t.visit && x.status === "answered");
  const said = settled.map((x) => `${label(x.answer)}, by ${x.by ? name(x.by) : "the time limit"}`);
  return said.length > 0 ? `Decided: ${said.join("; ")}.` : "Nobody waits for this answer any more.";
}

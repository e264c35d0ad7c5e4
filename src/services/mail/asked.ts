import { partsOfText, type WrittenLetter } from "@/core/letter";
import { answersOf, levelOf, proceduresFrom, releaseAt, roundText, type RequestState } from "@/core/engine";
import { stepKind } from "@/core/kinds";
import type { AnswerChoice, AskMail } from "@/core/route";
import { nextInWords } from "@/core/words";
import { requests, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { loadDirectory, type Directory } from "../kernel/directory";
import { proceduresAtHand } from "../requests/proceduresAtHand";
import { releaseFor } from "../requests/releases";
import { whereText } from "../requests/requestView";

/** A task that somebody is asked to answer by mail, as it stands now. */
export interface Asked {
  request: string;
  number: string;
  title: string;
  process: string;
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
  answers: (AnswerChoice & { then: string })[];
  ended: RequestState["status"] | null;
}

/** @returns null where there is no such task, or nobody is written to at its step any more */
export async function askedAt(db: Db, request: string, task: string, person: string): Promise<Asked | null> {
  const row = await requests.requestForCommand(db, { id: request }, false);
  if (!row) return null;
  const d: Directory = await loadDirectory(db, row.directory_version);
  const own = await releaseFor(db, d, row.release_id);
  const procedures = await proceduresAtHand(db, d, own, row.state);
  const level = levelOf(row.state, task);
  const t = level && Object.hasOwn(level.state.tasks, level.id) ? level.state.tasks[level.id] : undefined;
  if (!level || !t) return null;
  const release = releaseAt(level, own, proceduresFrom(procedures));
  const step = release.places.get(t.step)?.step;
  const byMail = step && t.purpose !== "changes" ? stepKind(KINDS, step).asks?.byMail(step) : undefined;
  if (!step || !byMail) return null;
  const next = nextInWords(release, t.step, row.state.requester);
  const { letter } = level.state.visits[t.visit] ?? {};
  const mayHave = t.candidates.some((c) => c.person === person) && (t.holder === null || t.holder === person);
  const about = t.about ?? roundText(level.state.scopes, t.scope ?? "");
  return {
    request: row.id,
    number: row.number,
    title: row.title,
    process: own.definition.name,
    mailbox: own.definition.mailbox ?? "",
    step: step.name,
    about: whereText(row.state, level, own, proceduresFrom(procedures), about),
    open: (t.status === "open" || t.status === "taken") && mayHave,
    due: t.due,
    seq: row.state.seq,
    letter: {
      subject: letter?.subject ?? "",
      text: letter?.text ?? "",
      written: letter?.letter ?? { language: "", parts: partsOfText(letter?.text ?? "") },
      hidden: letter?.hidden === true,
    },
    byMail,
    answers: answersOf(release, t).map((a) => ({
      ...a,
      then: next.find((n) => n.answer === a.label)?.then ?? "",
    })),
    ended: row.ended_at === null ? null : row.state.status,
  };
}

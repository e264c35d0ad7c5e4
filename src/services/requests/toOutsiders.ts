import {
  levelOf,
  outsideId,
  outsiderOf,
  type CompiledRelease,
  type News,
  type RequestEvent,
  type RequestState,
  type VisitLetter,
} from "@/core/engine";
import { isOutside } from "@/core/form";
import type { WrittenLetter } from "@/core/letter";
import { outsideLetter, overLetter } from "@/core/words";
import type { requests } from "@/db";
import { openFor } from "./openFor";

/** Accounts of people outside whom a command has named first. */
export const accountsNamed = (events: readonly RequestEvent[]): string[] =>
  events.flatMap((e) => {
    if (e.type === "in call") return accountsNamed([e.event]);
    return e.type === "outsider named" ? [e.account] : [];
  });

/** What a letter to somebody outside needs of the request it is about. */
export interface OutsideMail {
  state: RequestState;
  release: CompiledRelease;
  /** What all mails of it have in common. */
  blank: Pick<
    requests.NewMail,
    "channel" | "room" | "mailbox" | "copies" | "blind" | "replyTo" | "files" | "again" | "sent"
  >;
}

interface Said {
  effect: string;
  subject: string;
  text: string;
  letter?: WrittenLetter | undefined;
  hidden?: boolean | undefined;
}
function toOne(account: string, s: Said, m: OutsideMail, task: string | null): requests.NewMail[] {
  const who = outsiderOf(m.state, account);
  if (!who) return [];
  const level = task === null ? null : levelOf(m.state, task);
  const t = level?.state.tasks[level.id];
  return [
    {
      ...m.blank,
      effect: s.effect,
      part: 0,
      step: t?.step ?? null,
      scope: t?.scope ?? null,
      receivers: [{ name: who.name, email: who.email }],
      subject: s.subject,
      text: s.text,
      letter: s.letter ?? null,
      // Where they are known by something hidden, so is that they were written to.
      hidden: s.hidden === true || who.hides !== undefined,
      ...(task === null ? {} : { asks: { task, person: account, seq: m.state.seq } }),
    },
  ];
}

/**
 * Asks somebody outside, for the first time or again: what the step says to those it asks, or in words of ours. The link is
 * made as the letter is sent.
 * @param step its name
 */
export function askOutside(
  n: News & { to: string; task: string },
  step: string,
  letter: VisitLetter | undefined,
  m: OutsideMail,
): requests.NewMail[] {
  const { definition } = m.release;
  const { number } = m.state;
  const own = outsideLetter({ number, process: definition.name, step });
  const { subject, text } = letter ?? own;
  const said = { subject: n.kind === "reminded" ? `Reminder: ${subject}` : subject, text };
  const effect = `ask:${n.task}:${n.seq}:${n.to}`;
  return toOne(n.to, { effect, ...said, letter: letter?.letter, hidden: letter?.hidden }, m, n.task);
}

/** That somebody outside is not asked any more; nothing for news of other kinds. */
export function overOutside(n: News & { to: string }, m: OutsideMail): requests.NewMail[] {
  if (n.kind !== "called off" && n.kind !== "handed away") return [];
  const over = overLetter({ number: m.state.number, step: n.facts.step });
  return toOne(n.to, { effect: `over:${n.task ?? ""}:${n.seq}:${n.to}`, ...over }, m, null);
}

/** What a step or a ladder tells somebody outside; a reminder with the link to what they are asked, while they are. */
export const tellOutside = (
  told: { effect: string; people: readonly string[]; subject: string; text: string; reminds: boolean },
  m: OutsideMail,
): requests.NewMail[] =>
  told.people.filter(isOutside).flatMap((account) => {
    const [open] = told.reminds ? openFor(m.state, account) : [];
    const { subject, text } = told;
    if (!open) return toOne(account, { effect: `told:${told.effect}:${account}`, subject, text }, m, null);
    const effect = `ask:${told.effect}:${account}`;
    return toOne(account, { effect, subject, text }, m, outsideId(open.level, open.t.id));
  });

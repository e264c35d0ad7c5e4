import { sampleMailFacts, type MailFacts } from "../form";
import { startKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "../route";
import { place, type Problem } from "./problem";
import { takenByBoth } from "./takenByBoth";

/** A start of another process that is live, by mail to a mailbox. */
export interface MailTaker {
  mailbox: string;
  /** Of the process. */
  name: string;
  /** Its condition over the mail; null for any. */
  when: string | null;
}

/** A mail as one tells it from others. */
const about = (m: MailFacts): string => {
  const from = m.sender === "somebody@example.org" ? "" : ` from ${m.sender}`;
  return `${from ? from.trim() : ""}${m.subject ? `${from ? " " : ""}with the subject “${m.subject}”` : ""}`;
};

const alike = (a: string, b: string): boolean =>
  a.replace(/\s+/g, " ").trim() === b.replace(/\s+/g, " ").trim();

/**
 * A mail that two starts take starts nothing, and is held until somebody says which. It is told where one of them takes
 * any mail, or both ask the same, or a mail is found that both take (`takenByBoth`); that none is found proves nothing.
 */
export function mailStartProblems(
  d: ProcessDefinition,
  kinds: Kinds,
  others: readonly MailTaker[] | undefined,
  out: Problem[],
) {
  if (!d.mailbox) return;
  const own = d.starts.flatMap((s) => {
    const of = startKind(kinds, s).ofMail?.(s);
    return of ? [{ id: s.id, when: of.when }] : [];
  });
  const samples = d.samples.flatMap((s) => sampleMailFacts(s) ?? []);
  for (const { id, when } of own) {
    const beside = [
      ...(others ?? []).filter((o) => o.mailbox === d.mailbox),
      ...own.filter((o) => o.id !== id).map((o) => ({ name: d.name, when: o.when })),
    ];
    const any = (w: string | null) => w === null || w.trim() === "";
    const how = (of: string | null): string | null => {
      if (any(when) || any(of)) return "and one of the two takes any";
      if (alike(when!, of!)) return "under the same condition";
      const both = takenByBoth(when!, of!, samples);
      return both && `for example one ${about(both)}`;
    };
    const found = beside.flatMap((o) => {
      const said = how(o.when);
      return said === null ? [] : [{ name: o.name, said }];
    })[0];
    if (!found) continue;
    out.push({
      severity: "warning",
      code: "mail-taken-twice",
      where: place("start", id, "when"),
      message: `Mail to ${d.mailbox} starts “${found.name}”, too, ${found.said}: what both take starts neither, and is held. Say in both when they take it, for example contains(Mail.subject, "offer").`,
    });
  }
}

import { startKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "../route";
import { place, type Problem } from "./problem";

/** A start of another process that is live, by mail to a mailbox. */
export interface MailTaker {
  mailbox: string;
  /** Of the process. */
  name: string;
  /** Its condition over the mail; null for any. */
  when: string | null;
}

const alike = (a: string, b: string): boolean =>
  a.replace(/\s+/g, " ").trim() === b.replace(/\s+/g, " ").trim();

/**
 * A mail that two starts take starts nothing, and is held until somebody says which. It is told where one of them takes
 * any mail, or both ask the same; whether other conditions can hold together is not looked into.
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
  for (const { id, when } of own) {
    const beside = [
      ...(others ?? []).filter((o) => o.mailbox === d.mailbox),
      ...own.filter((o) => o.id !== id).map((o) => ({ name: d.name, when: o.when })),
    ];
    const any = (w: string | null) => w === null || w.trim() === "";
    const other = beside.find((o) => any(when) || any(o.when) || alike(when!, o.when!));
    if (!other) continue;
    const how = any(when) || any(other.when) ? "and one of the two takes any" : "under the same condition";
    out.push({
      severity: "warning",
      code: "mail-taken-twice",
      where: place("start", id, "when"),
      message: `Mail to ${d.mailbox} starts “${other.name}”, too, ${how}: what both take starts neither, and is held. Say in both when they take it, for example contains(Mail.subject, "offer").`,
    });
  }
}

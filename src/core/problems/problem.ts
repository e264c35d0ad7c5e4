import { checkFormula, type CheckedFormula, type FormulaProblem, type Scope, type Type } from "../expression";
import type { Mend, OfficeFacts } from "../kinds";
import type { Outlet } from "../route";

/** Something wrong with a draft, on the row it belongs to. Errors stop a release. */
export interface Problem {
  severity: "error" | "warning";
  code: string;
  where: {
    kind: "field" | "step" | "start" | "letter" | "ladder" | "document" | "process";
    id: string;
    place?: string;
  };
  message: string;
  /** For a mistake inside a formula. */
  formula?: { text: string; from: number; to: number };
  mend?: Mend;
}

/** The part of the office's data that rules are checked against. */
export function officeFactsOf(o: {
  people: readonly (OfficeFacts["people"][number] & { active: boolean })[];
  groups: readonly { key: string; members: readonly string[] }[];
  duties: readonly { duty: string }[];
  calendars: readonly { key: string }[];
  mailboxes: readonly { address: string }[];
  chat?: string;
  outlets?: readonly Outlet[];
  opened?: readonly string[];
}): OfficeFacts {
  const duties: Record<string, number> = {};
  for (const h of o.duties) duties[h.duty] = (duties[h.duty] ?? 0) + 1;
  return {
    people: o.people.filter((p) => p.active),
    groups: Object.fromEntries(o.groups.map((g) => [g.key, g.members])),
    duties,
    calendars: o.calendars.map((c) => c.key),
    mailboxes: o.mailboxes.map((m) => m.address),
    ...(o.chat === undefined ? {} : { chat: o.chat }),
    ...(o.outlets === undefined ? {} : { outlets: o.outlets }),
    ...(o.opened === undefined ? {} : { opened: o.opened }),
  };
}

/**
 * Checked formulas kept between two checks of the same draft: after one edit, only the formulas that
 * changed, or whose names changed, are parsed again.
 */
export class CheckCache {
  private readonly scopes = new Map<string, { scope: Scope; results: Map<string, CheckedFormula> }>();
  check(text: string, scope: Scope, signature: string, type: Type): CheckedFormula {
    let entry = this.scopes.get(signature);
    if (!entry) {
      if (this.scopes.size > 60) this.scopes.clear();
      this.scopes.set(signature, (entry = { scope, results: new Map() }));
    }
    const key = `${JSON.stringify(type)}|${text}`;
    let result = entry.results.get(key);
    if (!result) entry.results.set(key, (result = checkFormula(text, entry.scope, type)));
    return result;
  }
}

export const place = (kind: Problem["where"]["kind"], id: string, at?: string): Problem["where"] =>
  at ? { kind, id, place: at } : { kind, id };

/** A mistake inside a formula as a problem of the draft. */
export const inFormula = (
  where: Problem["where"],
  text: string,
  p: FormulaProblem,
  mend?: Mend,
): Problem => ({
  severity: "error",
  code: p.code,
  where,
  message: p.message,
  formula: { text, from: p.from, to: p.to },
  ...(mend ? { mend } : {}),
});

import {
  context,
  FILE,
  listOf,
  TEXT,
  type ContextValue,
  type Names,
  type Scope,
  type Value,
} from "../expression";
import type { ValueFacts } from "./fieldBehaviour";

/** A mail as formulas of a start read it. */
export interface MailFacts {
  /** Address, all small. */
  sender: string;
  senderName: string;
  /** Addresses it was sent to, and copies. */
  to: readonly string[];
  subject: string;
  text: string;
  /** Ids of the files that came with it. */
  files: readonly string[];
}

/** By this name. */
export const MAIL = "Mail";

export const MAIL_SCOPE: Scope = {
  [MAIL]: context({
    sender: TEXT,
    "sender name": TEXT,
    to: listOf(TEXT),
    subject: TEXT,
    text: TEXT,
    attachments: listOf(FILE),
  }),
};

/** What stands there for one mail; files that cannot be had are left out. */
export function mailNames(m: MailFacts, facts: Pick<ValueFacts, "file">): Names {
  const value: ContextValue = new Map<string, Value>([
    ["sender", m.sender || null],
    ["sender name", m.senderName || null],
    ["to", [...m.to]],
    ["subject", m.subject || null],
    ["text", m.text || null],
    ["attachments", m.files.flatMap((id) => facts.file(id) ?? [])],
  ]);
  return { get: (n) => (n === MAIL ? value : undefined) };
}

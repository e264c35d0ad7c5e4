/** What stands in the log, by kind: what matters for safety, so that it can be told afterwards what happened. */
interface LogData {
  "signed in": { how: string };
  /** `account` as it was typed, cut short. */
  "sign-in refused": { account: string; why: "password" | "too often" | "provider" };
  "signed out": Record<never, never>;
  "shown anew": Record<never, never>;
  "session ended": { person: string; session: string };
  "password link made": { person: string };
  "password set": { person: string; how: "link" | "change" };
  "key made": { key: string; label: string; person: string };
  "key taken back": { key: string; label: string; person: string };
  "service added": { person: string };
  "service closed": { person: string };
  "service opened": { person: string };
  "person added": { person: string };
  "person changed": { person: string; what: string[] };
  "person closed": { person: string; moved: number };
  "person opened": { person: string };
  "rights given": { person: string };
  "rights taken": { person: string };
  "people brought in": { added: number; changed: number };
  "group changed": { group: string };
  "place renamed": { kind: string; from: string; to: string; people: number };
  "calendar changed": { calendar: string };
  "mailbox changed": { mailbox: string };
  "chat room changed": { name: string };
  "outlet changed": { outlet: string };
  "letter kept": { letter: string; process: string };
  "template brought in": { template: string; process: string };
  "letter taken away": { letter: string };
  "ladder kept": { ladder: string; process: string };
  "ladder taken away": { ladder: string };
  "template kept": { template: string; process: string };
  "template taken away": { template: string };
  "duties changed": { person: string };
  "register rights changed": { register: string };
  "register changed": { register: string };
  "register made": { register: string };
  "absence set": { person: string; cover: string | null };
  "absence removed": { person: string };
  "owners proposed": { process: string; owners: string[] };
  "owners changed": { process: string; before: string[]; after: string[]; proposedBy: string };
  "owner named": { process: string; person: string };
  released: { process: string; version: string };
  "process closed": { process: string };
  "process opened": { process: string; version: string };
  "process deleted": { process: string; name: string };
  exported: { of: string };
  "job tried again": { job: string };
  "job dropped": { job: string };
  "personal values blanked": { person: string | null; process: string | null; requests: number };
  /** The policy said no; `deed` is what was tried. */
  refused: { deed: string; on: string };
}
export type LogKind = keyof LogData;
export type LogEntry = { [K in LogKind]: { what: K; data: LogData[K] } }[LogKind];

/** Every kind of entry, in the order in which they are offered; forgetting one does not compile. */
const KINDS = {
  "signed in": true,
  "sign-in refused": true,
  "signed out": true,
  "shown anew": true,
  "session ended": true,
  "password link made": true,
  "password set": true,
  "key made": true,
  "key taken back": true,
  "service added": true,
  "service closed": true,
  "service opened": true,
  "person added": true,
  "person changed": true,
  "person closed": true,
  "person opened": true,
  "rights given": true,
  "rights taken": true,
  "people brought in": true,
  "group changed": true,
  "place renamed": true,
  "calendar changed": true,
  "mailbox changed": true,
  "chat room changed": true,
  "outlet changed": true,
  "letter kept": true,
  "template brought in": true,
  "letter taken away": true,
  "ladder kept": true,
  "ladder taken away": true,
  "template kept": true,
  "template taken away": true,
  "duties changed": true,
  "register rights changed": true,
  "register changed": true,
  "register made": true,
  "absence set": true,
  "absence removed": true,
  "owners proposed": true,
  "owners changed": true,
  "owner named": true,
  released: true,
  "process closed": true,
  "process opened": true,
  "process deleted": true,
  exported: true,
  "job tried again": true,
  "job dropped": true,
  "personal values blanked": true,
  refused: true,
} as const satisfies { [K in LogKind]: true };
export const LOG_KINDS = Object.keys(KINDS) as LogKind[];

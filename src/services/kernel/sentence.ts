import { editRefusalSentence, refusalSentence, writeRefusalSentence } from "@/core/words";
import { getPool, type Unavailable } from "@/db";
import { loadDirectory, personName, registerOf } from "./directory";
import type { WriteRefusal } from "@/core/records";
import type { Failure, ProviderWhy } from "./failure";

/** A failure in words, people by their names. */
export async function sentenceOf(f: Failure): Promise<string> {
  // Without the database there are no names to be looked up.
  if (f.code === "unavailable") return UNAVAILABLE[f.data.why];
  const d = await loadDirectory(getPool());
  if (f.code === "record-refused") {
    const shape = registerOf(d, f.data.register);
    return shape
      ? writeRefusalSentence(f.data.why, shape, d.registers)
      : `There is no register "${f.data.register}".`;
  }
  return failureSentence(f, (id) => personName(d, id));
}

/** What whoever waits is told while the database does nothing for us. */
export const UNAVAILABLE: Readonly<Record<Unavailable, string>> = {
  unreachable: "The database cannot be reached just now. Nothing was kept of this; try again in a moment.",
  "read-only": "The database takes no changes just now, so nothing was kept. Reading works; try again later.",
  full: "The database has no room left, so nothing was kept. Whoever runs this server must make room first.",
  busy: "Too much is going on at this moment, so nothing was kept. Try again in a moment.",
  slow: "This took longer than it may and was stopped; nothing was kept. Look for less at once, or try again.",
};

const PROVIDER: Readonly<Record<ProviderWhy, string>> = {
  "not set up": "Signing in through a provider is not set up here.",
  unreachable: "Your organisation's sign-in cannot be reached just now. Try again in a moment.",
  late: "That took too long, or began in another browser. Begin signing in once more.",
  unsaid: "Your organisation's sign-in did not say who you are. Begin once more.",
  closed: "Your account here is closed. Ask whoever keeps your office.",
  "not vouched for":
    "Your organisation's sign-in does not vouch for your e-mail address, so it cannot be told who you are here.",
  taken: "Somebody else signs in with this address already. Ask whoever keeps your office.",
  unknown: "You are not known here yet. Ask whoever keeps your office to add you.",
  "somebody else": "That was somebody else than who is signed in here.",
};

function failureSentence(
  f: Exclude<Failure, { code: "record-refused" }>,
  name: (person: string) => string,
): string {
  switch (f.code) {
    case "not-found":
      return `There is no ${f.data.what} "${f.data.id}", or you may not see it.`;
    case "not-offered":
      return f.data.why === null
        ? `“${f.data.says}” is not offered for ${f.data.title} as it is now. Nothing was begun.`
        : `“${f.data.says}” could not be begun for ${f.data.title}. ${f.data.why}`;
    case "not-allowed":
      return `You may not ${f.data.action}.`;
    case "refused":
      return refusalSentence(f.data, name);
    case "edit-refused":
      return editRefusalSentence(f.data);
    case "stale-draft":
      return `${f.data.by ? name(f.data.by) : "Somebody"} changed ${f.data.what.length > 0 ? f.data.what.slice(0, 5).join("; ") : "this draft"} in the meantime. Your change was not made: look at the newest state, then make it again.`;
    case "has-errors":
      return `${f.data.count === 1 ? "One error keeps" : `${f.data.count} errors keep`} this draft from being released. ${f.data.first}`;
    case "bad-version":
      return `"${f.data.version}" cannot be the next version. Use three numbers, ${f.data.least} or higher.`;
    case "already-sent":
      return `This was sent already, as ${f.data.number}, with other values than now. What was changed since is not in it: look at ${f.data.number}, or begin a new request.`;
    case "nothing-changed":
      return "The draft is the same as what is live; there is nothing to release.";
    case "sign-in":
      return "E-mail and password do not belong together. Check both, capitals count in the password.";
    case "too-many-tries":
      return `That was tried too often. Wait ${secondsText(f.data.seconds)}, then try again; each further miss makes the wait longer.`;
    case "provider-refused":
      return PROVIDER[f.data.why];
    case "prove-anew":
      return `You signed in more than ${f.data.minutes} minutes ago. This matters enough to show once more that it is you.`;
    case "too-fast":
      return `More came from you than is taken at once. Go on in ${secondsText(f.data.seconds)}.`;
    case "too-heavy":
      return `The formulas of this process took more than ${f.data.seconds} seconds over what was sent, so nothing of it was kept. Fewer lines help; its owners can make them lighter.`;
    case "unavailable":
      return UNAVAILABLE[f.data.why];
    case "invalid":
      return `${f.data.path ? `${f.data.path}: ` : ""}${f.data.message}`;
  }
}

const secondsText = (n: number): string => (n === 1 ? "a second" : `${n} seconds`);

/** The HTTP status that says the same to a program. */
export function failureStatus(f: Failure): number {
  switch (f.code) {
    case "not-found":
      return 404;
    case "not-allowed":
      return 403;
    case "sign-in":
      return 401;
    case "prove-anew":
    case "provider-refused":
      return 401;
    case "too-many-tries":
    case "too-fast":
      return 429;
    case "unavailable":
      return 503;
    case "stale-draft":
    case "not-offered":
      return 409;
    case "record-refused":
      return RECORD_STATUS[f.data.why.code];
    case "refused":
      return f.data.code === "form" || f.data.code === "note-needed" || f.data.code === "unknown-answer"
        ? 422
        : 409;
    case "edit-refused":
    case "already-sent":
    case "has-errors":
    case "bad-version":
    case "nothing-changed":
    case "too-heavy":
    case "invalid":
      return 422;
  }
}

const RECORD_STATUS: Readonly<Record<WriteRefusal["code"], number>> = {
  form: 422,
  gone: 404,
  // RFC 9110, section 13.1.1: the precondition the caller named does not hold.
  "changed-since": 412,
  taken: 409,
  "pointed-at": 409,
  unfit: 422,
  "must-not": 409,
  unclear: 409,
};

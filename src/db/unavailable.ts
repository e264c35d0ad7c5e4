/** Why the database does nothing for us just now, though nothing is wrong with what was asked. */
export type Unavailable = "unreachable" | "read-only" | "full" | "busy" | "slow";

/** Conditions of PostgreSQL (appendix A of its manual) that pass, and what they mean for whoever waits. */
const BY_STATE: Readonly<Record<string, Unavailable>> = {
  "25006": "read-only",
  "53100": "full",
  "53200": "busy",
  "53300": "busy",
  "53400": "busy",
  "57014": "slow",
  "55P03": "busy",
  "40001": "busy",
  "40P01": "busy",
  "25P03": "busy",
  "57P01": "unreachable",
  "57P02": "unreachable",
  "57P03": "unreachable",
  "57P05": "unreachable",
};
const BY_SYSTEM: ReadonlySet<string> = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "EPIPE",
  "ETIMEDOUT",
  "ENOTFOUND",
  "EAI_AGAIN",
  "EHOSTUNREACH",
  "ENETUNREACH",
  "ENOENT",
]);

interface Trouble {
  code?: unknown;
  message?: unknown;
  syscall?: unknown;
  errors?: unknown;
}

/** Null for an error that is no passing trouble of the database. */
export function whyUnavailable(e: unknown): Unavailable | null {
  if (typeof e !== "object" || e === null) return null;
  const { code, message, syscall, errors } = e as Trouble;
  if (typeof code === "string") {
    if (Object.hasOwn(BY_STATE, code)) return BY_STATE[code]!;
    // Class 08 is connection exceptions.
    if (/^08[0-9A-Z]{3}$/.test(code)) return "unreachable";
    if (BY_SYSTEM.has(code) && (code !== "ENOENT" || syscall === "connect")) return "unreachable";
  }
  // What the driver says itself has no code.
  if (typeof message === "string") {
    if (/^timeout exceeded when trying to connect$/.test(message)) return "busy";
    if (/^Connection terminated\b|^Client has encountered a connection error/.test(message))
      return "unreachable";
  }
  if (Array.isArray(errors)) return errors.map(whyUnavailable).find((x) => x !== null) ?? null;
  return null;
}

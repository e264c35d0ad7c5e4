import type { Refusal } from "@/core/engine";
import type { WriteRefusal } from "@/core/records";
import type { EditRefusal } from "@/core/route";
import type { ZodError } from "zod";
import { whyUnavailable, type Unavailable } from "@/db";
import { wasFull } from "./fullness";

/** Why somebody cannot sign in through the provider. */
export const PROVIDER_WHYS = [
  "not set up",
  "unreachable",
  "late",
  "unsaid",
  "closed",
  "not vouched for",
  "taken",
  "unknown",
  "somebody else",
] as const;
export type ProviderWhy = (typeof PROVIDER_WHYS)[number];

/** Expected failures of services, as data; `sentence` in this folder turns each into words. */
export type Failure =
  | { code: "not-found"; data: { what: string; id: string } }
  | { code: "not-allowed"; data: { action: string } }
  | { code: "refused"; data: Refusal }
  | { code: "edit-refused"; data: EditRefusal }
  | { code: "stale-draft"; data: { yours: number; now: number; by: string | null; what: string[] } }
  | { code: "has-errors"; data: { count: number; first: string } }
  | { code: "bad-version"; data: { version: string; least: string } }
  /** A start with a key by which something else was sent. */
  | { code: "already-sent"; data: { number: string } }
  | { code: "nothing-changed"; data: Record<string, never> }
  | { code: "sign-in"; data: Record<string, never> }
  | { code: "too-many-tries"; data: { seconds: number } }
  | { code: "provider-refused"; data: { why: ProviderWhy } }
  /** What is asked for needs somebody who has lately shown who they are. */
  | { code: "prove-anew"; data: { minutes: number } }
  /** More calls than one key or person may make. */
  | { code: "too-fast"; data: { seconds: number } }
  /** All formulas together took longer than a command may; nothing was kept. */
  | { code: "too-heavy"; data: { seconds: number } }
  /** What is pressed on a record, which does not hold of it just now, or cannot be told: then `why`. */
  | { code: "not-offered"; data: { says: string; title: string; why: string | null } }
  | { code: "invalid"; data: { path: string; message: string } }
  /** A record that is not written, of the register of that key. */
  | { code: "record-refused"; data: { register: string; why: WriteRefusal } }
  /** The database does nothing for us just now; nothing was kept, and it may be tried again. */
  | { code: "unavailable"; data: { why: Unavailable } };

export type Outcome<T> = { ok: true; value: T } | { ok: false; failure: Failure };

export const ok = <T>(value: T): Outcome<T> => ({ ok: true, value });
export const fail = (failure: Failure): { ok: false; failure: Failure } => ({ ok: false, failure });

/** Carries a failure out of a transaction, so that it is rolled back. */
export class Failed extends Error {
  constructor(readonly failure: Failure) {
    super(failure.code);
  }
}

/** The failure an error stands for; null for a bug. What is full is remembered for a while, as only writing tells it. */
export function failureOf(e: unknown): Failure | null {
  if (e instanceof Failed) return e.failure;
  const why = whyUnavailable(e);
  if (why === "full") wasFull();
  return why && { code: "unavailable", data: { why } };
}

/** Runs `work`; an expected failure inside becomes an outcome. */
export async function outcome<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return ok(await work());
  } catch (e) {
    const failure = failureOf(e);
    if (failure) return fail(failure);
    throw e;
  }
}

/** A document that its schema refuses, by the first thing wrong with it. */
export function schemaFailure(e: ZodError): Failure {
  const first = e.issues[0];
  return {
    code: "invalid",
    data: { path: first?.path.join(".") ?? "", message: first?.message ?? "is not right" },
  };
}

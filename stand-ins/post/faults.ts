import { z } from "zod";

/** What Post can be told to do wrong. Shares are parts of all mails, from 0 to 1. */
export const FAULTS = z.strictObject({
  /** Milliseconds before it answers what was sent. */
  slow: z.number().min(0).max(60_000).default(0),
  /** Not taken just now (451): whoever sends tries again. */
  refuse: z.number().min(0).max(1).default(0),
  /** Taken, and the connection lost before that is said. */
  loseAfter: z.number().min(0).max(1).default(0),
  /** The connection lost before anything is taken. */
  loseBefore: z.number().min(0).max(1).default(0),
  /** Put into the mailbox twice. */
  twice: z.number().min(0).max(1).default(0),
});
export type Faults = z.infer<typeof FAULTS>;
export const NO_FAULTS: Faults = FAULTS.parse({});

/** Local parts of addresses that are refused when they are named, and that take a mail and send it back afterwards. */
export const REFUSED = /^(nobody|no-such|unknown)\b/i;
export const RETURNED = /^(moved|full|returned)\b/i;

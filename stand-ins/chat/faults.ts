import { z } from "zod";

/** What the chat room can be told to do wrong. Shares are parts of all messages, from 0 to 1. */
export const FAULTS = z.strictObject({
  /** Milliseconds before it answers. */
  slow: z.number().min(0).max(60_000).default(0),
  /** Not taken just now (503). */
  refuse: z.number().min(0).max(1).default(0),
  /** Taken, and the connection lost before that is said. */
  loseAfter: z.number().min(0).max(1).default(0),
  /** What is pressed is told twice. */
  twice: z.number().min(0).max(1).default(0),
  /** What is pressed is told to nobody. */
  mute: z.number().min(0).max(1).default(0),
});
export type Faults = z.infer<typeof FAULTS>;

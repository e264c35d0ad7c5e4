import type { z } from "zod";

/** A task of the queue: what it is handed, and what is done with it. Handlers may run twice and must not mind. */
export interface JobKind<P = unknown> {
  payload: z.ZodType<P>;
  run(payload: P): Promise<void>;
}
export const job = <P>(kind: JobKind<P>): JobKind<P> => kind;

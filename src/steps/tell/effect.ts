import { z } from "zod";
import type { KeptEffect } from "../executor";

/**
 * Puts a notice on the screens of those told. It is kept with the request and the trail's line in one statement: a job
 * of its own would lock, read and save the request a second time, for what is a row of ours.
 */
export const effect: KeptEffect<"tell"> = {
  where: "kept",
  payload: z.object({
    kind: z.literal("tell"),
    id: z.string(),
    step: z.string(),
    people: z.array(z.string()),
    subject: z.string(),
    text: z.string(),
    on: z.array(z.object({ register: z.string(), id: z.string() })).optional(),
  }),
  notice: ({ people, subject, text, on = [] }) => ({
    people,
    subject,
    text,
    notes: on.map((r) => ({ ...r, text: text.trim() || subject })),
  }),
};

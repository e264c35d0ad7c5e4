import { z } from "zod";
import type { Receiver } from "@/core/kinds";
import type { WrittenLetter } from "@/core/letter";
import type { KeptEffect } from "../executor";

const RECEIVER: z.ZodType<Receiver> = z.union([
  z.object({ person: z.string() }),
  z.object({ name: z.string(), email: z.string() }),
]);

/** It was written by the engine, and is only carried here. */
const isWritten = (v: unknown): boolean =>
  typeof v === "object" && v !== null && "parts" in v && Array.isArray(v.parts);

/**
 * Puts a notice on the screens of those told, and mails into the book of what is to be sent. Both are kept with the
 * request and the trail's line in one statement: a job of its own would lock, read and save the request a second time,
 * for what is a row of ours. Mails are sent by jobs, from what is kept.
 */
export const effect: KeptEffect<"tell"> = {
  where: "kept",
  payload: z.object({
    kind: z.literal("tell"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    people: z.array(z.string()),
    subject: z.string(),
    text: z.string(),
    on: z.array(z.object({ register: z.string(), id: z.string() })).optional(),
    mail: z
      .object({
        to: z.array(RECEIVER),
        copy: z.array(RECEIVER),
        blind: z.array(RECEIVER),
        replyTo: RECEIVER.optional(),
        files: z.array(z.string()),
        again: z.literal(true).optional(),
        letter: z.custom<WrittenLetter>(isWritten).optional(),
        hidden: z.literal(true).optional(),
      })
      .optional(),
    chat: z
      .object({
        people: z.array(z.string()),
        room: z.string().optional(),
        hidden: z.literal(true).optional(),
      })
      .optional(),
    own: z.literal(true).optional(),
    reminds: z.literal(true).optional(),
  }),
  notice: ({ people, subject, text, on = [], mail, chat, own = false, reminds = false }) => ({
    people,
    subject,
    text,
    notes: on.map((r) => ({ ...r, text: text.trim() || subject })),
    mail: mail ?? null,
    chat: chat ?? null,
    own,
    reminds,
  }),
};

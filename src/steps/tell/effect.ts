import { z } from "zod";
import { at, notices } from "@/db";
import type { OutsideEffect } from "../executor";

/**
 * Puts a notice on the screens of those told, once, however often a worker tries: a notice exists once per person
 * and effect, and is kept in one transaction with the trail's line.
 */
export const effect: OutsideEffect<"tell"> = {
  where: "outside",
  attempts: 12,
  payload: z.object({
    kind: z.literal("tell"),
    id: z.string(),
    step: z.string(),
    people: z.array(z.string()),
    subject: z.string(),
    text: z.string(),
  }),
  async deliver(e, ctx) {
    if (ctx.request === null) throw new Error("a notice belongs to a request that has been made");
    let fresh = 0;
    for (const person of e.people) {
      const added = await notices.insertNotice(ctx.db, {
        person,
        request: ctx.request,
        effectKey: `${ctx.request}:${e.id}`,
        subject: e.subject,
        body: e.text,
        at: at(ctx.at)!,
      });
      if (added) fresh++;
    }
    return fresh > 0 ? { people: e.people } : null;
  },
};

import { isOutside } from "@/core/form";
import { getPool } from "@/db";
import type { Actor } from "../kernel/actor";
import { loadDirectory } from "../kernel/directory";
import { answerLinkBy } from "../mail/answerLink";
import { askedAt, type Asked } from "../mail/asked";
import { followerBy } from "./trackingLink";
import { visitorAs } from "./visitor";

/** Somebody outside as whom a link asks, and what of. */
export interface AskedBy {
  actor: Actor;
  number: string;
  request: string;
  task: string;
  /** The letter it came with. */
  message: string;
  asked: Asked;
}

export const OVER = "Nobody waits for this answer any more: it has been given, or is not needed.";

/**
 * Whoever comes by a link that asks somebody outside; null where it is none of those. It opens nothing once it is answered,
 * withdrawn or with somebody else, because whoever has the letter has the link.
 */
export async function askedBy(token: string): Promise<AskedBy | { gone: string } | null> {
  const db = getPool();
  const link = await answerLinkBy(db, token);
  if (!link || !isOutside(link.person_id)) return null;
  const asked = await askedAt(db, link.request_id, link.task_id, link.person_id);
  if (link.used_at) return { gone: "You have answered this already; a link works once." };
  if (!asked?.open || asked.ended) return { gone: OVER };
  const { number, request_id: request, task_id: task, message_id: message } = link;
  return {
    actor: visitorAs(await loadDirectory(db), link.person_id, "link"),
    number,
    request,
    task,
    message,
    asked,
  };
}

/** Whoever comes by a link of any sort as somebody outside, and to which request; or why it leads nowhere. */
export async function linkedBy(token: string): Promise<{ actor: Actor; number: string } | { gone: string }> {
  return (await askedBy(token)) ?? followerBy(token);
}

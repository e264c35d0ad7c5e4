import { emailKey } from "@/core/form";
import { at, notices, requests, type Client, type MessageRow } from "@/db";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { commandIn } from "../requests/requests";

/** What somebody answered, by mail or on a page. */
export interface Reply {
  /** As it is kept. */
  id: string;
  from: { name: string; email: string } | null;
  subject: string;
  text: string;
  /** Whether it is known who wrote it. */
  vouched: boolean;
}

/** Tells the step that sent the mail what was answered; nothing of a mail that no step sent, or that asked somebody. */
export async function tellStep(
  c: Call,
  db: Client,
  { request_id: request, direction, effect, step_id: step, scope, person_id: asked }: MessageRow,
  reply: Reply,
  files: readonly string[],
) {
  if (request === null || direction !== "out" || effect === null || step === null || asked !== null) return;
  await commandIn(c, db, request, {
    type: "replied",
    effect: { id: effect, step, scope },
    reply: {
      text: reply.text,
      by: reply.from === null ? "" : emailKey(reply.from.email),
      vouched: reply.vouched,
      files,
    },
  });
}

/**
 * Tells those who wait for it: whoever wrote by hand, those who have a task of the request, else the owners. What somebody
 * who works here has answered is read by those who wrote, and by the owners: nobody else is told of it.
 */
export async function tellOfReply(db: Client, answered: MessageRow, reply: Reply, now: number) {
  const request = answered.request_id!;
  const d = await loadDirectory(db);
  const waiting = await requests.whoWaits(db, request);
  const from = emailKey(reply.from?.email ?? "");
  const inside = from !== "" && [...d.people.values()].some((p) => emailKey(p.email) === from);
  const people = new Set([
    ...(answered.by_person ? [answered.by_person] : []),
    ...(inside ? [] : waiting.asked),
  ]);
  if (people.size === 0) for (const o of waiting.owners) people.add(o);
  const name = reply.from?.name || reply.from?.email || "somebody";
  for (const person of people)
    if (d.people.get(person)?.active)
      await notices.insertNotice(db, {
        person,
        request,
        effectKey: `mail:${reply.id}`,
        subject: `${waiting.number}: ${name} has written`,
        body: reply.subject,
        at: at(now)!,
      });
}

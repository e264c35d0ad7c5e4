import { messages, type Client, type MessageRow } from "@/db";
import type { Call } from "../kernel/defineUseCase";
import { commandIn } from "../requests/requests";

/**
 * Tells a request whom a mail did not reach, in the transaction that notes that it was told: each once, whatever ends in
 * between.
 */
export async function tellMissed(c: Call, db: Client, m: MessageRow): Promise<void> {
  const untold = m.missed.filter((x) => !x.told);
  if (untold.length === 0) return;
  await messages.noteTold(db, m.id);
  // What was written by hand was no step's; whoever wrote it sees it with the mail.
  if (m.request_id === null || m.effect === null || m.step_id === null) return;
  for (const { email, why } of untold)
    await commandIn(c, db, m.request_id, {
      type: "not delivered",
      effect: { id: m.effect, step: m.step_id, scope: m.scope },
      to: email,
      why,
    });
}

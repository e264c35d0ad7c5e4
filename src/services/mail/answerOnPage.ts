import { NO_PARTY } from "@/core/form";
import { inTransaction, messages, requests, type MessageRow } from "@/db";
import { SYSTEM } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { can } from "../kernel/policy";
import { seenRequest } from "../requests/loadRequest";
import { isReader, letterReader, type LetterReader } from "./letterReader";
import { tellOfReply, tellStep } from "./tellReply";

const MOST_TEXT = 20_000;
const named = ({ name, email }: { name: string; email: string }) => ({ name, email });
const invalid = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/** Whether a letter was written to somebody, and may be answered as letters are: one that asks is not. */
export function isWrittenTo(m: MessageRow, reader: Pick<LetterReader, "id" | "address">): boolean {
  if (m.direction !== "out" || m.channel !== "mail" || m.task_id !== null) return false;
  return [...m.receivers, ...m.copies, ...m.blind].some((r) => isReader(r, reader));
}

/**
 * Answers a letter on the page of its request, as a mail that answers it would: it stands in the conversation, whoever
 * waits for it is told, and a step that reads what is answered reads it.
 * @param key the same over every try, so that it is kept once
 */
export const answerOnPage = defineUseCase(
  ["see request", "answer letter"],
  (c, id: string, key: string, said: string): Promise<{ number: string }> =>
    inTransaction(async (db) => {
      const missing = { code: "not-found", data: { what: "mail", id } } as const;
      const m = /^\d{1,18}$/.test(id) ? await messages.messageById(db, id, true) : null;
      const seen = m?.request_id ? await seenRequest(c, db, { id: m.request_id }) : null;
      const d = await c.directory();
      const asker = seen?.row.state.requester ?? NO_PARTY;
      const mine = m !== null && isWrittenTo(m, letterReader(d, c.actor, asker));
      c.must({ action: "answer letter", receiver: mine && seen !== null }, missing);
      if (!m || !seen) throw new Failed(missing);
      const text = said.replace(/\r\n?/g, "\n").trim();
      if (text === "") throw invalid("text", "Write something.");
      if (text.length > MOST_TEXT)
        throw invalid("text", `An answer has at most ${MOST_TEXT} characters; this one has ${text.length}.`);
      const { number } = seen.row;
      const me = d.people.get(c.actor.id);
      const now = await nowMs(db);
      const subject = /^re:/i.test(m.subject) ? m.subject : `Re: ${m.subject}`;
      const fingerprint = `page:${c.actor.id}:${key}`;
      const kept = await messages.insertIncoming(db, {
        request: m.request_id,
        mailbox: m.mailbox,
        fingerprint,
        sender:
          c.actor.kind === "visitor" && asker.kind === "outside" ? named(asker) : { person: c.actor.id },
        receivers: m.by_person === null ? [] : [{ person: m.by_person }],
        copies: [],
        subject,
        body: text,
        said: text,
        files: [],
        messageId: null,
        inReplyTo: m.message_id,
        automatic: null,
        vouched: true,
        hidden: m.hidden,
        why: null,
        at: now,
      });
      // It came before. What was changed since, when the answer to that was lost, must not be taken for kept.
      if (kept === null) {
        const before = await messages.incomingByFingerprint(db, m.mailbox, fingerprint);
        if (before?.body === text) return { number };
        throw invalid(
          "text",
          "Your answer was kept already, as it was when you pressed first. Copy what you have changed since, and write it as a letter.",
        );
      }
      const from =
        asker.kind === "outside" && c.actor.kind === "visitor"
          ? named(asker)
          : { name: me?.name ?? c.actor.name, email: me?.email ?? "" };
      const reply = { id: kept, from, subject, text, vouched: true };
      // Told to the request by Cobble Step, as what comes by mail is.
      const inside = { ...c, actor: SYSTEM, may: (deed: Parameters<typeof can>[1]) => can(SYSTEM, deed) };
      await tellStep({ ...inside, must: () => undefined }, db, m, reply, []);
      await tellOfReply(db, m, reply, now);
      await requests.tick(db, number, null);
      return { number };
    }),
);

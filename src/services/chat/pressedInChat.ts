import { z } from "zod";
import { asksBy } from "@/core/route";
import type { CellContext, FormData, Stored } from "@/core/form";
import { chat, getPool } from "@/db";
import { KINDS } from "@/kinds";
import { signatureMistake, type ChatMessage, type SignedCall } from "@/outside/chat";
import { actorOf } from "../kernel/actor";
import { sentenceOf } from "../kernel/sentence";
import { askedAt, type Asked } from "../mail/asked";
import { act } from "../requests/requests";
import { signingKeyOf } from "./chatServer";
import { messageFor } from "./postChat";

const PRESSED = z.object({
  message: z.string().min(1).max(200),
  /** Who pressed. */
  account: z.string().min(1).max(200),
  answer: z.string().min(1).max(200),
  note: z.string().max(100_000).default(""),
  /** What was filled in, by the ids of the lines. */
  fills: z.record(z.string().max(200), z.string().max(20_000)).default({}),
});
const MOST_NOTE = 4000;

/** What the chat room is told: what to say to whoever pressed, and what the message shows from now on. */
export type PressAnswer =
  { status: 200; say: string; message: ChatMessage | null } | { status: 400 | 401 | 404; why: string };

const REFUSED: PressAnswer = {
  status: 401,
  why: "This call is not signed by the chat room that is set up here.",
};

/**
 * Somebody has pressed an answer in the chat room. What is believed of that is what the room has signed: who it was, by
 * their account, and on which message. What they may answer is asked as if they had come themselves.
 */
export async function pressedInChat(call: SignedCall): Promise<PressAnswer> {
  const db = getPool();
  const room = await chat.chatRoom(db);
  const key = room && signingKeyOf(room);
  if (!room || key === null || signatureMistake(call, key!, Date.now() / 1000) !== null) return REFUSED;
  const read = PRESSED.safeParse(jsonOf(call.body));
  if (!read.success) return { status: 400, why: "It does not say what was pressed." };
  const { account, answer, note, fills } = read.data;
  const m = await chat.messageInChat(db, read.data.message);
  if (!m || m.request_id === null || m.task_id === null)
    return { status: 404, why: "No message that asks for anything is known by that id." };
  const person = await chat.personOfAccount(db, account);
  const actor = person && (await actorOf(db, person, { kind: "chat", id: m.id }));
  const say = (words: string, message: ChatMessage | null = null): PressAnswer => ({
    status: 200,
    say: words,
    message,
  });
  if (!person || !actor)
    return say(
      "Cobble Step does not know you by this account yet. Tie it there, on the page with your name.",
    );
  const asked = await askedAt(db, m.request_id, m.task_id, person);
  if (!asked || !asksBy(asked.byMail).chat)
    return say("This is not answered in chat any more. Open it in Cobble Step.");
  // Only what its own reader is shown is put in the place of their message.
  const own = person === m.person_id;
  const shown = async () => {
    const now = own ? await askedAt(db, m.request_id!, m.task_id!, person) : null;
    return now && messageFor(db, m, now);
  };
  if (!asked.open)
    return say(`Nothing was done. ${own ? asked.over : "You are not asked here."}`, await shown());
  const done = await act(actor, asked.number, {
    type: "answer",
    task: m.task_id,
    answer,
    note: note.slice(0, MOST_NOTE),
    data: filledIn(asked, fills),
    // The message says what stood when it was written: where that is another now, nobody decides by it.
    ...(m.seq === null ? {} : { seen: m.seq }),
  });
  if (!done.ok) return say(`Nothing was done: ${await sentenceOf(done.failure)}`, await shown());
  const label = asked.answers.find((a) => a.id === answer)?.label ?? answer;
  return say(`Your answer is kept: ${label}.`, await shown());
}

function jsonOf(body: Buffer): unknown {
  try {
    return JSON.parse(body.toString("utf8"));
  } catch {
    return null;
  }
}

/** Lines as the form keeps them; what cannot be read stays as it was said, for the form's own checks to refuse. */
function filledIn({ fills }: Asked, said: Readonly<Record<string, string>>): FormData {
  const read = fills.flatMap(({ field, now }): [string, Stored][] => {
    const text = Object.hasOwn(said, field.id) ? said[field.id]! : null;
    const cell = text === null ? undefined : KINDS.fields[field.kind].cell?.(field, { text }, READ_AS);
    if (!cell || !("kept" in cell) || cell.kept === now) return [];
    return [[field.id, cell.kept]];
  });
  return Object.fromEntries(read);
}
const READ_AS: CellContext = {
  reading: { dates: "day", decimal: "." },
  named: () => ({ why: "none" }),
};

"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import {
  answerOnPage,
  letterByHand,
  putMailbox,
  removeMailbox,
  sendByHand,
  settleMail,
  settleMailOfNone,
  tryMailbox,
  type LetterByHand,
  type LetterDraft,
  type MailboxInput,
} from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const server = z.object({ host: z.string().max(255), port: z.number() });
const input: z.ZodType<MailboxInput> = z.object({
  address: z.string().max(300),
  name: z.string().max(200),
  smtp: server,
  imap: server.nullable(),
  security: z.enum(["none", "starttls", "tls"]),
  user: z.string().max(300),
  password: z.string().max(1000).nullable(),
  checksBy: z.string().max(255),
  news: z.boolean(),
});
const address = z.string().max(300);

export const settleMailAction = async (
  id: string,
  how: "send" | "arrived",
): Promise<Answer<{ number: string }>> =>
  answerOf(
    await settleMail(
      await requireActor(),
      z.string().max(20).parse(id),
      z.enum(["send", "arrived"]).parse(how),
    ),
  );

const number = z.string().max(40);

/** A letter of the process as it reads for a request. */
export const letterByHandAction = async (of: string, letter: string): Promise<Answer<LetterDraft>> =>
  answerOf(await letterByHand(await requireActor(), number.parse(of), z.string().max(60).parse(letter)));

const byHand: z.ZodType<LetterByHand> = z.strictObject({
  key: z.uuid(),
  letter: z.string().max(60).nullable(),
  to: z.array(z.string().max(400)).max(50),
  subject: z.string().max(2000),
  text: z.string().max(100_000),
  files: z.array(z.string().max(60)).max(50),
});
export const sendByHandAction = async (of: string, letter: LetterByHand): Promise<Answer<{ sent: true }>> =>
  answerOf(await sendByHand(await requireActor(), number.parse(of), byHand.parse(letter)));

export const answerOnPageAction = async (
  id: string,
  key: string,
  text: string,
): Promise<Answer<{ number: string }>> =>
  answerOf(
    await answerOnPage(
      await requireActor(),
      z.string().max(20).parse(id),
      z.uuid().parse(key),
      z.string().max(100_000).parse(text),
    ),
  );

export async function putMailboxAction(
  of: string | null,
  said: MailboxInput,
): Promise<Answer<{ address: string }>> {
  const r = await answerOf(
    await putMailbox(await requireActor(), address.nullable().parse(of), input.parse(said)),
  );
  if (r.ok) revalidatePath("/office", "layout");
  return r;
}
export async function removeMailboxAction(of: string): Promise<Answer<null>> {
  const r = await answerOf(await removeMailbox(await requireActor(), address.parse(of)));
  if (r.ok) revalidatePath("/office", "layout");
  return r;
}
export const tryMailboxAction = async (of: string): Promise<Answer<{ why: string | null }>> =>
  answerOf(await tryMailbox(await requireActor(), address.parse(of)));

export const settleMailOfNoneAction = async (
  id: string,
  process: string | null,
): Promise<Answer<{ number: string | null }>> =>
  answerOf(
    await settleMailOfNone(
      await requireActor(),
      z.string().max(20).parse(id),
      z.string().max(60).nullable().parse(process),
    ),
  );

"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import {
  putMailbox,
  removeMailbox,
  settleMail,
  settleMailOfNone,
  tryMailbox,
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

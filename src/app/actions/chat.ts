"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import {
  askChatCode,
  putChatRoom,
  removeChatRoom,
  tieChatAccount,
  tryChatRoom,
  untieChatAccount,
  type ChatRoomInput,
} from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const input: z.ZodType<ChatRoomInput> = z.object({
  name: z.string().max(200),
  address: z.string().max(500),
  token: z.string().max(1000).nullable(),
  signingKey: z.string().max(1000).nullable(),
});

export const askChatCodeAction = async (account: string): Promise<Answer<null>> =>
  answerOf(await askChatCode(await requireActor(), z.string().max(200).parse(account)));

export async function tieChatAccountAction(code: string): Promise<Answer<{ account: string }>> {
  const r = await answerOf(await tieChatAccount(await requireActor(), z.string().max(60).parse(code)));
  revalidatePath("/you");
  return r;
}
export async function untieChatAccountAction(): Promise<Answer<null>> {
  const r = await answerOf(await untieChatAccount(await requireActor()));
  revalidatePath("/you");
  return r;
}
export async function putChatRoomAction(said: ChatRoomInput): Promise<Answer<null>> {
  const r = await answerOf(await putChatRoom(await requireActor(), input.parse(said)));
  revalidatePath("/office", "layout");
  return r;
}
export async function removeChatRoomAction(): Promise<Answer<null>> {
  const r = await answerOf(await removeChatRoom(await requireActor()));
  revalidatePath("/office", "layout");
  return r;
}
export const tryChatRoomAction = async (): Promise<Answer<{ why: string | null }>> =>
  answerOf(await tryChatRoom(await requireActor()));

"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { makeKey, revokeKey } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

export async function makeKeyAction(person: string, label: string): Promise<Answer<{ key: string }>> {
  const r = await answerOf(await makeKey(await requireActor(), z.string().max(60).parse(person), z.string().max(200).parse(label)));
  revalidatePath("/office");
  return r;
}
export async function revokeKeyAction(id: string): Promise<Answer<null>> {
  const r = await answerOf(await revokeKey(await requireActor(), z.string().regex(/^\d+$/).parse(id)));
  revalidatePath("/office");
  return r;
}

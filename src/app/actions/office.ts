"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { addService, makeKey, revokeKey, setService, settleJob } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

export async function makeKeyAction(person: string, label: string): Promise<Answer<{ key: string }>> {
  const r = await answerOf(
    await makeKey(await requireActor(), z.string().max(60).parse(person), z.string().max(200).parse(label)),
  );
  revalidatePath("/office", "layout");
  return r;
}
export async function revokeKeyAction(id: string): Promise<Answer<null>> {
  const r = await answerOf(await revokeKey(await requireActor(), z.string().regex(/^\d+$/).parse(id)));
  revalidatePath("/office", "layout");
  return r;
}
export async function addServiceAction(name: string, purpose: string): Promise<Answer<{ id: string }>> {
  const r = await answerOf(
    await addService(
      await requireActor(),
      z.string().max(400).parse(name),
      z.string().max(400).parse(purpose),
    ),
  );
  revalidatePath("/office", "layout");
  return r;
}
export async function setServiceAction(id: string, active: boolean): Promise<Answer<null>> {
  const r = await answerOf(
    await setService(await requireActor(), z.string().max(60).parse(id), z.boolean().parse(active)),
  );
  revalidatePath("/office", "layout");
  return r;
}
export async function settleJobAction(id: string, how: "try again" | "drop"): Promise<Answer<null>> {
  return answerOf(
    await settleJob(
      await requireActor(),
      z.string().max(20).parse(id),
      z.enum(["try again", "drop"]).parse(how),
    ),
  );
}

"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { keepView, removeView } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

export async function keepViewAction(
  register: string,
  name: string,
  view: string,
  shared: boolean,
): Promise<Answer<null>> {
  const kept = new URLSearchParams(z.string().max(20_000).parse(view));
  // A view is of all its pages.
  kept.delete("page");
  const r = await keepView(
    await requireActor(),
    z.string().max(60).parse(register),
    z.string().max(200).parse(name),
    String(kept),
    z.boolean().parse(shared),
  );
  revalidatePath(`/registers/${register}`);
  return answerOf(r);
}
export async function removeViewAction(id: string): Promise<Answer<null>> {
  return answerOf(await removeView(await requireActor(), z.string().max(18).parse(id)));
}

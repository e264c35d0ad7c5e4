"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { OUTLETS, type Outlet } from "@/core/route";
import { putOutlet, removeOutlet, tryOutlet, type OutletInput } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const kind = z.enum(OUTLETS);
const input: z.ZodType<OutletInput> = z.object({
  kind,
  address: z.string().max(500),
  account: z.string().max(200).nullable(),
  secret: z.string().max(1000).nullable(),
});

export async function putOutletAction(said: OutletInput): Promise<Answer<null>> {
  const r = await answerOf(await putOutlet(await requireActor(), input.parse(said)));
  revalidatePath("/office", "layout");
  return r;
}
export async function removeOutletAction(which: Outlet): Promise<Answer<null>> {
  const r = await answerOf(await removeOutlet(await requireActor(), kind.parse(which)));
  revalidatePath("/office", "layout");
  return r;
}
export const tryOutletAction = async (which: Outlet): Promise<Answer<{ why: string | null }>> =>
  answerOf(await tryOutlet(await requireActor(), kind.parse(which)));

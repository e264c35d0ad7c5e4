"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { changePassword, endOwnSession } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

export async function endSessionAction(id: string | null): Promise<Answer<{ ended: number }>> {
  const r = await answerOf(
    await endOwnSession(
      await requireActor(),
      z
        .string()
        .regex(/^\d{1,18}$/)
        .nullable()
        .parse(id),
    ),
  );
  revalidatePath("/you");
  return r;
}
export async function changePasswordAction(password: string): Promise<Answer<{ ended: number }>> {
  const r = await answerOf(await changePassword(await requireActor(), z.string().max(1000).parse(password)));
  revalidatePath("/you");
  return r;
}

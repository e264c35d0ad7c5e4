"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { changePassword, chooseNews, chooseQuietHours, endOwnSession } from "@/services";
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

export const chooseNewsAction = async (kind: string, way: string, wanted: boolean): Promise<Answer<null>> =>
  answerOf(
    await chooseNews(
      await requireActor(),
      z.string().max(40).parse(kind),
      z.enum(["screen", "mail", "chat"]).parse(way),
      z.boolean().parse(wanted),
    ),
  );
const time = z.string().max(10);
export async function chooseQuietHoursAction(
  hours: { from: string; until: string } | null,
): Promise<Answer<null>> {
  const r = await answerOf(
    await chooseQuietHours(
      await requireActor(),
      z.object({ from: time, until: time }).nullable().parse(hours),
    ),
  );
  revalidatePath("/you");
  return r;
}

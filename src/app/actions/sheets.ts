"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { SheetPlan } from "@/core/sheets";
import { planSheet, sheetFar, stopSheet, writeSheet } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const sheet = z.string().regex(/^\d{1,9}$/);
const column = z.string().max(60).nullable();
const sheetPlan = z.strictObject({
  matches: z.array(column).max(300),
  key: column,
  reading: z.strictObject({ dates: z.enum(["day", "month"]), decimal: z.enum([".", ","]) }),
  there: z.enum(["change", "leave"]),
  absent: z.enum(["add", "leave"]),
  empty: z.enum(["empty", "leave"]),
  aMinute: z.number().int().min(1).max(100_000).nullable(),
  quietly: z.boolean(),
}) satisfies z.ZodType<SheetPlan>;

export async function sheetFarAction(
  id: string,
): Promise<Answer<{ status: string; asking: number; done: number; total: number }>> {
  return answerOf(await sheetFar(await requireActor(), sheet.parse(id)));
}
export async function planSheetAction(id: string, plan: SheetPlan): Promise<Answer<null>> {
  return answerOf(await planSheet(await requireActor(), sheet.parse(id), sheetPlan.parse(plan)));
}
export async function writeSheetAction(id: string, asking: number): Promise<Answer<null>> {
  return answerOf(await writeSheet(await requireActor(), sheet.parse(id), z.number().int().parse(asking)));
}
export async function stopSheetAction(id: string): Promise<Answer<null>> {
  const r = await answerOf(await stopSheet(await requireActor(), sheet.parse(id)));
  revalidatePath("/registers", "layout");
  return r;
}

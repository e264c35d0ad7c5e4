"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { registerShape } from "@/contracts";
import type { RegisterShape } from "@/core/form";
import type { SheetPlan } from "@/core/sheets";
import { makeOfSheet, planSheet, sheetFar, stopSheet, writeSheet } from "@/services";
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

/** The register a sheet makes, and what goes where in it. */
export async function makeOfSheetAction(
  id: string,
  shape: RegisterShape,
  matches: (string | null)[],
): Promise<Answer<{ key: string }>> {
  const actor = await requireActor();
  const parsed = registerShape.safeParse(shape);
  if (!parsed.success) {
    const { path, message } = parsed.error.issues[0]!;
    const sentence = `${path.join(" ") || "The register"}: ${message}. Nothing was made.`;
    return { ok: false, sentence, problems: [], code: "invalid" };
  }
  const r = await makeOfSheet(actor, sheet.parse(id), parsed.data, z.array(column).max(300).parse(matches));
  revalidatePath("/registers", "layout");
  return answerOf(r);
}

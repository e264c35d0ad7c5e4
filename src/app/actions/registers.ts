"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { registerRights } from "@/contracts";
import type { RegisterRights } from "@/core/form";
import { setRegisterRights } from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

export async function setRightsAction(
  register: string,
  before: RegisterRights,
  rights: RegisterRights,
): Promise<Answer<null>> {
  const r = await answerOf(
    await setRegisterRights(
      await requireActor(),
      z.string().max(60).parse(register),
      registerRights.parse(before),
      registerRights.parse(rights),
    ),
  );
  revalidatePath("/registers", "layout");
  return r;
}

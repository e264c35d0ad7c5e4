"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { registerRights, registerShape } from "@/contracts";
import type { RegisterRights, RegisterShape } from "@/core/form";
import {
  agreeReshape,
  changeRegister,
  makeRegister,
  setRegisterRights,
  shapeHits,
  stopReshape,
  type RegisterChanged,
  type ShapeHits,
} from "@/services";
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

/** A shape that came in; null where it is none, with what is wrong with it. */
function shapeOf(shape: RegisterShape): { shape: RegisterShape } | { answer: Answer<never> } {
  const parsed = registerShape.safeParse(shape);
  if (parsed.success) return { shape: parsed.data };
  const issue = parsed.error.issues[0];
  const sentence = `${issue?.path.join(" ") ?? "The register"}: ${issue?.message ?? "is not right"}. Nothing was kept.`;
  return { answer: { ok: false, sentence, problems: [], code: "invalid" } };
}

export async function shapeHitsAction(register: string, shape: RegisterShape): Promise<Answer<ShapeHits>> {
  const s = shapeOf(shape);
  if ("answer" in s) return s.answer;
  return answerOf(await shapeHits(await requireActor(), z.string().max(60).parse(register), s.shape));
}
export async function changeRegisterAction(
  register: string,
  before: RegisterShape,
  after: RegisterShape,
  lets: readonly string[],
): Promise<Answer<RegisterChanged>> {
  const s = shapeOf(after);
  if ("answer" in s) return s.answer;
  const actor = await requireActor();
  const r = await answerOf(
    await changeRegister(
      actor,
      z.string().max(60).parse(register),
      registerShape.parse(before),
      s.shape,
      z.array(z.string().max(60)).max(200).parse(lets),
    ),
  );
  revalidatePath("/registers", "layout");
  return r;
}
export async function makeRegisterAction(shape: RegisterShape): Promise<Answer<{ key: string }>> {
  const s = shapeOf(shape);
  if ("answer" in s) return s.answer;
  const r = await answerOf(await makeRegister(await requireActor(), s.shape));
  revalidatePath("/registers", "layout");
  return r;
}

/** Leaves out what nothing can be made of while the records are gone through, or gives the change up. */
export async function reshapeAction(register: string, deed: "agree" | "stop"): Promise<Answer<null>> {
  const actor = await requireActor();
  const key = z.string().max(60).parse(register);
  const r = await answerOf(await (deed === "agree" ? agreeReshape(actor, key) : stopReshape(actor, key)));
  revalidatePath("/registers", "layout");
  return r;
}

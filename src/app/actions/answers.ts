"use server";
import { z } from "zod";
import type { SeenAnew } from "@/core/engine";
import { formData } from "@/contracts";
import { MAX_REASON } from "@/core/form";
import { answerByLink, answerOutside, type AnswerOutside } from "@/services";
import { answerOf, currentActor, type Answer } from "@/web";

/** What values that are read anew came to when they were looked at, by path. */
const sawAnew = z.record(z.string().max(300), z.union([z.string().max(20_000), z.boolean(), z.null()]));

/** Pressed on the page of a link; whoever presses need not be signed in where the link says so. */
export const answerByLinkAction = async (
  token: string,
  answer: string,
  note: string,
  saw: SeenAnew | null,
): Promise<Answer<{ number: string; label: string }>> =>
  answerOf(
    await answerByLink(
      z.string().max(100).parse(token),
      await currentActor(),
      z.string().max(60).parse(answer),
      z.string().max(4000).parse(note),
      sawAnew.nullable().parse(saw) ?? undefined,
    ),
  );

const outsideAnswer = z.strictObject({
  answer: z.string().max(60),
  note: z.string().max(4000),
  data: formData,
  seen: z.number().int(),
  passed: z.record(z.string().max(300), z.string().max(MAX_REASON)),
  saw: sawAnew.nullable(),
});

/** The same by somebody outside, with what they filled in. */
export const answerOutsideAction = async (
  token: string,
  answer: AnswerOutside,
): Promise<Answer<{ number: string; label: string }>> =>
  answerOf(await answerOutside(z.string().max(100).parse(token), outsideAnswer.parse(answer)));

"use server";
import { z } from "zod";
import { answerByLink } from "@/services";
import { answerOf, currentActor, type Answer } from "@/web";

/** Pressed on the page of a link; whoever presses need not be signed in where the link says so. */
export const answerByLinkAction = async (
  token: string,
  answer: string,
  note: string,
): Promise<Answer<{ number: string; label: string }>> =>
  answerOf(
    await answerByLink(
      z.string().max(100).parse(token),
      await currentActor(),
      z.string().max(60).parse(answer),
      z.string().max(4000).parse(note),
    ),
  );

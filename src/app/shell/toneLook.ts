import type { Tone } from "@/core/route";
import type { ButtonLook } from "@/ui";

/** How the button of an answer looks, by what it means. */
export const TONE_LOOK: Record<Tone, ButtonLook> = { agree: "main", refuse: "brick", plain: "plain" };

import type { Rule } from "@/rules/shapes";

/** What a rung does, by kind. To add a kind: its shape here, its folder, and a line in each list beside it. */
export interface RungParts {
  remind: { do: "remind" };
  /** With a letter it goes out by mail, in the place of the notice. Without a subject it says which step is waiting. */
  tell: { do: "tell"; who: Rule; subject?: string; text: string; letter?: string };
  add: { do: "add"; who: Rule };
  "hand over": { do: "hand over"; to: Rule };
  answer: { do: "answer"; answer: string; note: string };
}
export type RungKind = keyof RungParts;
export type RungAction = RungParts[RungKind];

import type { ChatMessage } from "@/outside/chat";
import { ANY, YESNO } from "@/core/expression";
import { labelOf, optionText, type Stored } from "@/core/form";
import { KINDS } from "@/kinds";
import type { Asked } from "../mail/asked";

interface Around {
  /** What was written when they were asked: nothing is kept of it with the task once that is over. */
  said: { subject: string; text: string };
  desk: string;
  /** A moment in the reader's own words. */
  time(ms: number): string;
}

/** What a message shows to somebody who is asked, or was: with answers to press while they are. */
export function askMessage(a: Asked, { desk, time, said }: Around): ChatMessage {
  return {
    heading: said.subject.trim() || `${a.number}: ${a.step}`,
    text: said.text.trim(),
    facts: [
      { name: "Request", value: a.number },
      { name: "What is asked", value: a.about === "" ? a.step : `${a.step}, ${a.about}` },
      ...(a.open && a.due !== null ? [{ name: "Waits until", value: time(a.due) }] : []),
    ],
    answers: a.open
      ? a.answers.map((x) => ({
          id: x.id,
          label: x.label,
          does: x.then,
          note: x.note === "must" ? ("must" as const) : ("may" as const),
        }))
      : [],
    fills: a.open ? a.fills.map(fillOf) : [],
    link: { label: `${a.number} in Cobble Step`, address: desk },
    over: a.open ? null : a.over,
  };
}

const YES_OR_NO = ["yes", "no"];

function fillOf({ field, now }: Asked["fills"][number]): ChatMessage["fills"][number] {
  const { has, type } = KINDS.fields[field.kind];
  const isYesOrNo = type(field, () => ANY).t === YESNO.t;
  const choices =
    has.options === "values" && !field.among ? (field.options ?? []).map((o) => optionText(field, o)) : null;
  return {
    id: field.id,
    label: labelOf(field),
    value: choices && typeof now === "string" && now !== "" ? optionText(field, now) : textOf(now),
    needed: field.needed === "true",
    choices: isYesOrNo ? YES_OR_NO : choices,
  };
}

function textOf(now: Stored): string {
  if (typeof now === "boolean") return YES_OR_NO[now ? 0 : 1]!;
  return typeof now === "string" ? now : "";
}

/** The same for what only tells. */
export const tellMessage = (subject: string, text: string): ChatMessage => ({
  heading: subject,
  text: text.trim(),
  facts: [],
  answers: [],
  fills: [],
  link: null,
  over: null,
});

/** What is kept of what a message shows: while it is the same, it need not be shown anew. */
export function showsNow(a: Asked | null): string {
  if (a === null) return OVER;
  return a.open ? "asks" : a.over;
}
export const OVER = "Nobody waits for this answer any more.";

"use client";
import { calendarFor, limitReached, sampleAt, sampleTurn, whoWouldBeAsked } from "@/core/engine";
import type { Assignment, Limit } from "@/core/route";
import { whenText } from "@/ui";
import { useDraft } from "../draft/DraftProvider";

/** Samples told of beside the chosen one. */
const OTHERS = 2;

/** When a limit would be reached for other samples, so that what is said for one is seen to hold for them. */
export function OtherLimits({ step, who, limit }: { step: string; who: Assignment; limit: Limit }) {
  const d = useDraft();
  const { turn, sample, definition, facts } = d;
  if (!turn || !sample) return null;
  const others = definition.samples.filter((s) => s.id !== sample.id).slice(0, OTHERS);
  if (others.length === 0) return null;
  const said = others.map((s) => {
    const of = sampleTurn(turn.release, s, facts);
    const at = sampleAt(of, step);
    if (!at) return { s, says: "it comes to no round of it" };
    const asked = whoWouldBeAsked(of, at, who);
    const people = "go" in asked ? [] : asked.map((c) => c.person);
    const calendar = calendarFor(of, people);
    const reached = limitReached(of, at, limit, calendar);
    if ("go" in reached) return { s, says: "not known" };
    return { s, says: reached.due === null ? "never" : whenText(reached.due, calendar.zone) };
  });
  return (
    <ul aria-label="Limits of other samples" className="mt-1 text-sm text-soft">
      {said.map(({ s, says }) => (
        <li key={s.id}>
          “{s.name}”: {says}
        </li>
      ))}
    </ul>
  );
}

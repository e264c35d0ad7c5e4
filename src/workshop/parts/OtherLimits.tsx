"use client";
import { calendarFor, limitReached, whoWouldBeAsked } from "@/core/engine";
import type { Assignment, Limit } from "@/core/route";
import { whenText } from "@/ui";
import { useOtherSamples } from "./useOtherSamples";

/** When a limit would be reached for other samples, so that what is said for one is seen to hold for them. */
export function OtherLimits({ step, who, limit }: { step: string; who: Assignment; limit: Limit }) {
  const others = useOtherSamples(step);
  if (others.length === 0) return null;
  const said = others.map(({ sample, of, at }) => {
    if (!at) return { sample, says: "it comes to no round of it" };
    const asked = whoWouldBeAsked(of, at, who);
    const people = "go" in asked ? [] : asked.map((c) => c.person);
    const calendar = calendarFor(of, people);
    const reached = limitReached(of, at, limit, calendar);
    if ("go" in reached) return { sample, says: "not known" };
    return { sample, says: reached.due === null ? "never" : whenText(reached.due, calendar.zone) };
  });
  return (
    <ul aria-label="Limits of other samples" className="mt-1 text-sm text-soft">
      {said.map(({ sample, says }) => (
        <li key={sample.id}>
          “{sample.name}”: {says}
        </li>
      ))}
    </ul>
  );
}

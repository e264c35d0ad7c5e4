"use client";
import { whoWouldBeAsked } from "@/core/engine";
import type { Assignment } from "@/core/route";
import { calledIn } from "../draft/calledIn";
import { useDraft } from "../draft/DraftProvider";
import { useOtherSamples } from "./useOtherSamples";

const NAMED = 3;

/** Whom the rules of a step find for other samples, so that what is said for one is seen to hold for them. */
export function OtherSamples({ step, who }: { step: string; who: Assignment }) {
  const people = useDraft((d) => d.factsData.people);
  const others = useOtherSamples(step);
  if (others.length === 0) return null;
  const found = others.map(({ sample: s, of, at }) => {
    const asked = at && whoWouldBeAsked(of, at, who);
    if (!asked) return { s, says: "it comes to no round of it" };
    if ("go" in asked) return { s, says: "not known" };
    const more = asked.length > NAMED ? ` and ${asked.length - NAMED} more` : "";
    const name = calledIn(people, of.state);
    const named = asked.slice(0, NAMED).map((c) => name(c.person));
    return { s, says: named.length > 0 ? named.join(", ") + more : "nobody" };
  });
  return (
    <ul aria-label="Other samples" className="mt-1 text-soft">
      {found.map(({ s, says }) => (
        <li key={s.id}>
          “{s.name}”: {says}
        </li>
      ))}
    </ul>
  );
}

"use client";
import { sampleAt, sampleTurn, whoWouldBeAsked } from "@/core/engine";
import type { Assignment } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";

/** Samples told of beside the chosen one. */
const OTHERS = 2;
const NAMED = 3;

/** Whom the rules of a step find for other samples, so that what is said for one is seen to hold for them. */
export function OtherSamples({ step, who }: { step: string; who: Assignment }) {
  const d = useDraft();
  const { turn, sample, definition, facts, factsData } = d;
  if (!turn || !sample) return null;
  const others = definition.samples.filter((s) => s.id !== sample.id).slice(0, OTHERS);
  if (others.length === 0) return null;
  const name = (id: string) => factsData.people[id]?.name ?? id;
  const found = others.map((s) => {
    const of = sampleTurn(turn.release, s, facts);
    const at = sampleAt(of, step);
    const asked = at && whoWouldBeAsked(of, at, who);
    if (!asked) return { s, says: "it comes to no round of it" };
    if ("go" in asked) return { s, says: "not known" };
    const more = asked.length > NAMED ? ` and ${asked.length - NAMED} more` : "";
    const people = asked.slice(0, NAMED).map((c) => name(c.person));
    return { s, says: people.length > 0 ? people.join(", ") + more : "nobody" };
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

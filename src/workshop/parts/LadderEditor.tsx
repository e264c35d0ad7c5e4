"use client";
import { useMemo } from "react";
import { laddersUsed, placesOf, RouteScopes, type Ladder } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { deedsOn } from "./ladderDeeds";
import { Rungs } from "./Rungs";
import { TextCell } from "./TextCell";

/** A ladder kept by name: what it is called, which limits go by it, and its rungs. */
export function LadderEditor({ ladder, falls }: { ladder: Ladder; falls?(rung: string): string }) {
  const d = useDraft();
  const { definition } = d;
  const { registers } = d.office;
  const scope = useMemo(
    () =>
      new RouteScopes(definition, { registers, kinds: KINDS }).of(
        { kind: "ladder", id: ladder.id },
        undefined,
      ).scope,
    [definition, registers, ladder.id],
  );
  const places = placesOf(definition, KINDS);
  const steps = laddersUsed(definition, KINDS).get(ladder.id) ?? [];
  const used = steps.map((id) => `${places.get(id)!.number} ${places.get(id)!.step.name}`);
  const put = (l: Ladder) => d.edit({ op: "ladder.put", after: null, ladder: l });
  return (
    <div className="grid gap-1.5">
      <TextCell
        className="input"
        aria-label="Name of the ladder"
        value={ladder.name}
        onCommit={(t) => (t.trim() ? void put({ ...ladder, name: t.trim() }) : false)}
      />
      <p className="text-sm text-soft">
        {used.length > 0
          ? `What is changed here is changed for all that go by it: ${used.join(", ")}.`
          : "No limit goes by it yet."}
      </p>
      <Rungs
        id={ladder.id}
        rungs={ladder.rungs}
        answers={[]}
        scope={scope}
        {...(falls ? { falls } : {})}
        deeds={deedsOn(ladder, put)}
      />
    </div>
  );
}

"use client";
import { useEffect } from "react";
import type { Ladder, Limit, Step } from "@/core/route";
import { stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { Button } from "@/ui";
import { Chip, LadderEditor, ladderUsers, useDraft } from "../parts";
import { ProblemLines } from "./ProblemLines";

/** The ladders kept by name, at the foot of the route: each with the steps that go by it. Nothing where there are none. */
export function LadderRows() {
  const ladders = useDraft((d) => d.definition.ladders);
  useEffect(() => {
    const id = /^#(ladder-.+)$/.exec(location.hash)?.[1];
    if (id) document.getElementById(id)?.scrollIntoView({ block: "center" });
  }, []);
  if (!ladders) return null;
  return (
    <li className="mt-4 border-t border-line py-2 pl-2">
      <h2 className="font-serif text-base">Ladders kept by name</h2>
      <ul aria-label="Ladders kept by name">
        {ladders.map((l) => (
          <LadderRow key={l.id} ladder={l} />
        ))}
      </ul>
    </li>
  );
}

function LadderRow({ ladder }: { ladder: Ladder }) {
  const d = useDraft();
  const users = ladderUsers(d.definition, ladder.id);
  const many = ladder.rungs.length === 1 ? "one rung" : `${ladder.rungs.length} rungs`;
  return (
    <li id={`ladder-${ladder.id}`} className="flex flex-wrap items-baseline gap-x-2 py-1">
      <Chip text={ladder.name} label="Ladder" width={620}>
        {() => <LadderEditor ladder={ladder} />}
      </Chip>
      <span className="text-sm text-soft">
        {many} · {users.said ? `used by ${users.said}` : "used by no limit"}
      </span>
      <Button
        small
        look="quiet"
        aria-label={`Take away the ladder ${ladder.name}`}
        title={users.said ? "Limits that go by it keep its rungs as their own" : undefined}
        onClick={() =>
          d.edit({
            op: "batch",
            edits: [
              ...users.steps.flatMap((step) => withRungs(step, ladder)),
              { op: "ladder.remove" as const, id: ladder.id },
            ],
          })
        }
      >
        Take away
      </Button>
      <div className="w-full">
        <ProblemLines problems={d.problemsAt("ladder", ladder.id)} />
      </div>
    </li>
  );
}

/** A step whose limit has the rungs of a ladder as its own. */
function withRungs(step: Step, { rungs }: Ladder) {
  const limit = stepKind(KINDS, step).asks?.limit(step);
  if (!limit) return [];
  const { ladder: _, ...rest } = limit;
  const own: Limit = { ...rest, rungs };
  return [{ op: "step.set" as const, id: step.id, patch: { limit: own } }];
}

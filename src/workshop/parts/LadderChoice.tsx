"use client";
import type { Scope } from "@/core/expression";
import type { AnswerChoice, Limit } from "@/core/route";
import { Button, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { answers as givesAnswer, deedsOfStep } from "./ladderDeeds";
import { LadderEditor } from "./LadderEditor";
import type { Limited } from "./limited";
import { newId } from "./newId";
import { Rungs } from "./Rungs";

const OWN = "";
/** Before the id of one that is kept for all. */
const KEPT = "kept ";

/** What a limit goes by: rungs of its own, or a ladder kept by name for several. */
export function LadderChoice({
  step,
  scope,
  answers,
  falls,
}: {
  step: Limited;
  scope: Scope;
  answers: readonly AnswerChoice[];
  /** The days a rung falls on for the sample. */
  falls(rung: string): string;
}) {
  const d = useDraft();
  const { limit } = step;
  const ladders = d.definition.ladders ?? [];
  const ladder = ladders.find((l) => l.id === limit.ladder);
  // What is in the process already is chosen there.
  const kept = d.office.ladders.filter((k) => !ladders.some((l) => l.from?.ladder === k.id));
  const freeName = (name: string): string => {
    const names = new Set(ladders.map((l) => l.name));
    let free = name;
    for (let n = 2; names.has(free); n++) free = `${name} ${n}`;
    return free;
  };
  const gone = limit.ladder !== undefined && !ladder;
  const withLimit = (next: Limit) => ({ op: "step.set" as const, id: step.id, patch: { limit: next } });
  const pick = (id: string) => {
    const { ladder: _, ...rest } = limit;
    // What it went by stays, as rungs of its own.
    if (id === OWN) return d.edit(withLimit({ ...rest, rungs: ladder?.rungs ?? rest.rungs }));
    const forAll = kept.find((k) => KEPT + k.id === id);
    if (forAll) return take(forAll);
    return d.edit(withLimit({ ...rest, rungs: [], ladder: id }));
  };
  /** Brings one kept for all into the process, for this limit. */
  const take = ({ id: of, version, ladder: taken }: (typeof kept)[number]) => {
    const id = newId("ladder", (x) => ladders.some((l) => l.id === x));
    const { ladder: _, ...rest } = limit;
    d.edit({
      op: "batch",
      edits: [
        {
          op: "ladder.put",
          after: ladders.at(-1)?.id ?? null,
          ladder: { id, name: freeName(taken.name), rungs: taken.rungs, from: { ladder: of, version } },
        },
        withLimit({ ...rest, rungs: [], ladder: id }),
      ],
    });
  };
  const keep = () => {
    const id = newId("ladder", (x) => ladders.some((l) => l.id === x));
    const name = freeName(`Ladder of ${step.name}`);
    const { ladder: _, ...rest } = limit;
    d.edit({
      op: "batch",
      edits: [
        { op: "ladder.put", after: ladders.at(-1)?.id ?? null, ladder: { id, name, rungs: limit.rungs } },
        withLimit({ ...rest, rungs: [], ladder: id }),
      ],
    });
  };
  const own = limit.rungs.some((r) => givesAnswer(r));
  return (
    <section>
      <div className="mb-1 flex flex-wrap items-center gap-2">
        <h3>Ladder</h3>
        {(ladders.length > 0 || kept.length > 0 || gone) && (
          <Select
            aria-label="Ladder it goes by"
            className="!w-64"
            value={limit.ladder ?? OWN}
            onPick={pick}
            options={[
              { value: OWN, label: "rungs of its own" },
              ...ladders.map((l) => ({ value: l.id, label: `“${l.name}”` })),
              ...(kept.length > 0
                ? [
                    {
                      heading: "Kept for all processes",
                      of: kept.map((k) => ({ value: KEPT + k.id, label: `“${k.name}”` })),
                    },
                  ]
                : []),
              ...(gone ? [{ value: limit.ladder!, label: "one that is not there any more" }] : []),
            ]}
          />
        )}
      </div>
      {ladder ? (
        <LadderEditor ladder={ladder} falls={falls} />
      ) : (
        <>
          <Rungs
            id={step.id}
            rungs={limit.rungs}
            answers={answers}
            scope={scope}
            falls={falls}
            deeds={deedsOfStep(step.id, d.edit)}
          />
          {limit.rungs.length > 0 && (
            <p className="mt-1.5 flex flex-wrap items-center gap-2 text-sm text-soft">
              <Button small disabled={own} onClick={keep}>
                Keep these rungs by name
              </Button>
              {own
                ? "A rung gives an answer of this step, which no other step has: it stays here."
                : "Other limits can go by the same then, and it is changed once for all."}
            </p>
          )}
        </>
      )}
    </section>
  );
}

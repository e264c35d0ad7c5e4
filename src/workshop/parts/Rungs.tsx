"use client";
import type { Scope } from "@/core/expression";
import type { AnswerChoice, Rung } from "@/core/route";
import { Button } from "@/ui";
import type { RungDeeds } from "./ladderDeeds";
import { newId } from "./newId";
import { RungEditor } from "./RungEditor";

/** The rungs of a limit or a ladder, one after the other. */
export function Rungs({
  id,
  rungs,
  answers,
  ofMany = false,
  scope,
  falls,
  deeds,
}: {
  /** Of what has them. */
  id: string;
  rungs: readonly Rung[];
  /** Answers a rung may give on behalf of people; none in a ladder of several steps. */
  answers: readonly AnswerChoice[];
  /** They are about several steps. */
  ofMany?: boolean;
  scope: Scope;
  /** The days a rung falls on for the sample; absent where it is of no one step. */
  falls?(rung: string): string;
  deeds: RungDeeds;
}) {
  return (
    <>
      <ol>
        {rungs.map((r, i) => (
          <RungEditor
            key={r.id}
            of={id}
            rung={r}
            number={i + 1}
            answers={answers}
            ofMany={ofMany}
            scope={scope}
            deeds={deeds}
            {...(falls ? { falls: falls(r.id) } : {})}
          />
        ))}
      </ol>
      <div>
        <Button
          small
          onClick={() =>
            deeds.add(rungs.at(-1)?.id ?? null, {
              id: newId("rung", (x) => rungs.some((r) => r.id === x)),
              when: "at",
              action: { do: "hand over", to: { by: "manager" } },
            })
          }
        >
          Add a rung
        </Button>
      </div>
    </>
  );
}

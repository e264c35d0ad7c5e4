"use client";
import { lengthInWords } from "@/core/calendar";
import type { Scope } from "@/core/expression";
import type { Asks, Step } from "@/core/route";
import { Button } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { LimitEditor } from "./LimitEditor";

/** A time limit and its ladder, edited beside the real days it falls on for the sample. */
export function LimitChip({ step, scope }: { step: Step & Asks; scope: Scope }) {
  const d = useDraft();
  const { limit } = step;
  const byRule = limit?.rules?.length ? ", by rule" : "";
  const kept = d.definition.ladders?.find((l) => l.id === limit?.ladder);
  const own = limit?.rungs.length ? `, ladder of ${limit.rungs.length}` : "";
  const ladder = kept ? `, ladder “${kept.name}”` : own;
  return (
    <Chip
      text={limit ? `${lengthInWords(limit.otherwise)}${byRule}${ladder}` : "no limit"}
      label="Limit"
      width={620}
    >
      {() =>
        limit ? (
          <LimitEditor step={{ ...step, limit }} scope={scope} />
        ) : (
          <div className="grid gap-2">
            <p className="text-soft">Without a limit it may wait for ever, and nobody is reminded.</p>
            <Button
              onClick={() =>
                d.edit({
                  op: "step.set",
                  id: step.id,
                  patch: {
                    limit: {
                      otherwise: { amount: 2, unit: "working days" },
                      rungs: [
                        {
                          id: "remind",
                          when: "before",
                          length: { amount: 4, unit: "working hours" },
                          action: { do: "remind" },
                        },
                      ],
                    },
                  },
                })
              }
            >
              Set a limit of 2 working days
            </Button>
          </div>
        )
      }
    </Chip>
  );
}

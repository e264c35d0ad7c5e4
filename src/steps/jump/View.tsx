"use client";
import { CornerDownRight } from "lucide-react";
import { YESNO } from "@/core/expression";
import { isHeading } from "@/core/kinds";
import { placesOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { Chip, FormulaCell, useDraft, useNamesHere } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"jump">) {
  const d = useDraft();
  const names = useNamesHere();
  const set = (when: string | null) => d.edit({ op: "step.set", id: step.id, patch: { when } });
  const places = [...placesOf(d.definition, KINDS).values()].filter((p) => !isHeading(KINDS, p.step));
  const to = places.find((p) => p.step.id === step.to);
  return (
    <>
      go on with{" "}
      <Chip text={to ? `${to.number} ${to.step.name}` : "no step yet"} label="Go on with" empty={!to}>
        {(close) => (
          <ul aria-label="Steps">
            {places
              .filter((p) => p.step.id !== step.id)
              .map((p) => (
                <li key={p.step.id}>
                  <button
                    type="button"
                    className={classes(
                      "w-full rounded px-2 py-1 text-left hover:bg-slate-wash",
                      p.step.id === step.to && "font-medium",
                    )}
                    onClick={() => {
                      d.edit({ op: "step.set", id: step.id, patch: { to: p.step.id } });
                      close();
                    }}
                  >
                    {p.number} {p.step.name}
                  </button>
                </li>
              ))}
          </ul>
        )}
      </Chip>{" "}
      <Chip text={step.when ? `when ${step.when}` : "always"} label="When" width={420}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            <FormulaCell
              label="When it goes there"
              placeholder="always"
              value={step.when ?? ""}
              scope={scope}
              wanted={YESNO}
              names={names}
              onCommit={(t) => set(t || null)}
            />
            <p className="text-soft">Where this does not hold, the next step comes.</p>
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"jump"> = { icon: CornerDownRight, Sentence };

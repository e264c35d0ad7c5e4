"use client";
import type { Problem } from "@/core/problems";
import { classes } from "@/ui";
import { useDraft } from "../parts";

/** What is wrong with a row, each with its mend. */
export function ProblemLines({ problems }: { problems: readonly Problem[] }) {
  const edit = useDraft((d) => d.edit);
  return problems.map((p, i) => (
    <p
      key={i}
      className={classes("text-sm leading-snug", p.severity === "error" ? "text-brick" : "text-lichen")}
    >
      {p.severity === "error" ? "Error: " : "Warning: "}
      {p.message}
      {p.mend && (
        <button type="button" className="ml-2 underline" onClick={() => edit(p.mend!.edit)}>
          {p.mend.label}
        </button>
      )}
    </p>
  ));
}

"use client";
import { useEffect, useState } from "react";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import type { StepPreview } from "../draft/draft";
import type { Step } from "@/core/route";

/** Between the last change and asking anew. */
const PAUSE_MS = 300;

/** What a step finds for the sample in the real registers: asked of the server once what was typed is kept there. */
export function SamplePreview({ step }: { step: Step }) {
  const { sample, saving, preview } = useDraft();
  const [found, setFound] = useState<StepPreview | null>(null);
  const [stale, setStale] = useState(true);
  const id = sample?.id ?? null;
  useEffect(() => {
    setStale(true);
    if (id === null) return;
    let here = true;
    const timer = setTimeout(() => {
      void preview(step.id, id).then((r) => {
        if (!here) return;
        setFound(r.ok ? r.value : { ok: false, why: r.sentence });
        setStale(false);
      });
    }, PAUSE_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [step, id, saving, preview]);
  if (id === null) return <Line>Keep a sample to see what is found for it.</Line>;
  if (!found) return <Line>{stale ? "Looking…" : ""}</Line>;
  if (!found.ok) return <Line bad>For the sample this cannot be told: {found.why}</Line>;
  if (found.count === 0) return <Line stale={stale}>For the sample nothing is found.</Line>;
  const rest = found.count - found.things.length;
  return (
    <Line stale={stale}>
      For the sample: <span className="font-medium">{found.things.join("; ")}</span>
      {rest > 0 && ` and ${rest} more`}
      {found.more && "; there are others"}
    </Line>
  );
}

function Line({ bad, stale, children }: { bad?: boolean; stale?: boolean; children: React.ReactNode }) {
  return (
    <p
      role="status"
      className={classes("border-t border-line pt-2 text-sm", bad && "text-brick", stale && "text-soft")}
    >
      {children}
    </p>
  );
}

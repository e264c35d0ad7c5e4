"use client";
import type { SamplePath } from "@/core/engine";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { useDraft } from "./DraftProvider";

/** Why the sample's way ends early. */
function stopWords(p: SamplePath): string | null {
  if (p.result !== null || p.stop === null) return null;
  if (p.stuck) return `gets stuck: ${stuckSentence(p.stuck, KINDS)}`;
  return `stops: ${p.stop === "form" ? "its form is not complete" : p.stop}`;
}

/** The sample that everything on the sheets is shown for. */
export function SampleBar() {
  const d = useDraft();
  if (d.definition.samples.length === 0)
    return (
      <span className="ml-auto pb-1 text-sm text-soft">
        No samples: fill in the live form and keep it as one.
      </span>
    );
  const p = d.path;
  const stop = p && stopWords(p);
  return (
    <div className="ml-auto flex min-w-0 flex-wrap items-center gap-2 pb-1 text-sm">
      <label htmlFor="sample" className="text-soft">
        Sample
      </label>
      <select
        id="sample"
        className="input !min-h-7 !w-auto max-w-56 !py-0"
        value={d.sample?.id ?? ""}
        onChange={(e) => d.setSample(e.target.value)}
      >
        {d.definition.samples.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </select>
      <span className="text-soft">
        by {d.factsData.people[d.sample?.requester ?? ""]?.name ?? "nobody"}
        {p?.result && `; when all agree it ends as “${p.result}”`}
        {stop && <span title={stop}>; {stop}</span>}
      </span>
    </div>
  );
}

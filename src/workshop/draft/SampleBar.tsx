"use client";
import type { SamplePath } from "@/core/engine";
import type { Sample } from "@/core/route";
import { stuckSentence } from "@/core/words";
import { Picker } from "@/forms";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { useDraft } from "./DraftProvider";

/** Why the sample's way ends early. */
function stopWords(p: SamplePath): string | null {
  if (p.result !== null || p.stop === null) return null;
  if (p.stuck) return `gets stuck: ${stuckSentence(p.stuck, KINDS)}`;
  if (p.stop === "waits") return "waits for something that no sample brings about";
  return `stops: ${p.stop === "form" ? "its form is not complete" : p.stop}`;
}

const SHOWN = 30;
const found = (people: readonly { id: string; name: string; active: boolean }[], search: string) =>
  people
    .filter((p) => p.active && p.name.toLowerCase().includes(search.trim().toLowerCase()))
    .slice(0, SHOWN)
    .map((p) => ({ id: p.id, title: p.name }));

const sampleBefore = (samples: readonly Sample[], id: string): string | null =>
  samples[samples.findIndex((s) => s.id === id) - 1]?.id ?? null;

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
  const ends = p?.result ? `when all agree it ends as “${p.result}”` : "";
  return (
    <div className="ml-auto flex min-w-0 flex-wrap items-center gap-2 pb-1 text-sm lg:flex-nowrap">
      <label htmlFor="sample" className="text-soft">
        Sample
      </label>
      <Select
        id="sample"
        className="!min-h-7 !w-auto max-w-56 !py-0"
        value={d.sample?.id ?? ""}
        onPick={(value) => d.setSample(value)}
        options={d.definition.samples.map((s) => ({ value: s.id, label: s.name }))}
      />
      <label htmlFor="sample-by" className="text-soft">
        by
      </label>
      <div className="w-40 shrink-0">
        <Picker
          id="sample-by"
          label="Who asks in the sample"
          value={d.sample?.requester ?? null}
          shown={d.factsData.people[d.sample?.requester ?? ""]?.name ?? "nobody"}
          compact
          options={(search) => found(d.office.data.people, search)}
          onPick={(o) => {
            if (o && d.sample)
              d.edit({
                op: "sample.put",
                after: sampleBefore(d.definition.samples, d.sample.id),
                sample: { ...d.sample, requester: o.id },
              });
          }}
        />
      </div>
      {/* On one line: a second would push what is below out of sight. */}
      <span className="min-w-0 truncate text-soft" title={stop || ends}>
        {ends}
        {stop}
      </span>
    </div>
  );
}

"use client";
import { useEffect, useRef, useState } from "react";
import type { Field } from "@/core/form";
import type { StartPreview } from "@/core/records";
import type { Start } from "@/core/route";
import { startPreviewWords } from "@/core/words";
import { classes, dateText, Menu } from "@/ui";
import { newId, useDraft } from "../parts";

/** Between the last change and asking anew. */
const PAUSE_MS = 400;
/** Records called by name in the sentence. */
const NAMED = 3;

/** Which of today's records a start would take, and a sample made from one of them. */
export function StartConsequence({ start }: { start: Start }) {
  const unsaved = useDraft((d) => d.unsaved);
  const fields = useDraft((d) => d.definition.fields);
  const starting = useDraft((d) => d.starting);
  const [found, setFound] = useState<StartPreview | null>(null);
  const [stale, setStale] = useState(true);
  /** What was asked about last: another edit of the draft says nothing new of it. */
  const asked = useRef<{ start: Start; fields: readonly Field[] } | null>(null);
  useEffect(() => {
    if (asked.current?.start === start && asked.current.fields === fields) return;
    setStale(true);
    // The server looks at the draft as it is kept.
    if (unsaved) return;
    let here = true;
    const timer = setTimeout(() => {
      void starting(start.id)
        .catch(() => ({ ok: false as const, sentence: "The server could not be reached." }))
        .then((r) => {
          if (!here) return;
          asked.current = { start, fields };
          setFound(r.ok ? r.value : { ok: false, why: r.sentence });
          setStale(false);
        });
    }, PAUSE_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [start, fields, unsaved, starting]);
  if (!found) return <p className="text-sm text-soft">{stale ? "Looking at today’s records…" : ""}</p>;
  if (!found.ok)
    return (
      <p role="status" className="text-sm text-soft">
        {found.why && `Today’s records: ${found.why}`}
      </p>
    );
  const rest = found.count - Math.min(found.first.length, NAMED);
  return (
    <p role="status" className={classes("text-sm leading-snug text-soft", stale && "opacity-60")}>
      {startPreviewWords(found)}{" "}
      {found.first.slice(0, NAMED).map((r, i) => (
        <span key={r.id}>
          {i > 0 && "; "}
          <span className="text-ink">{r.title}</span>
          {r.day && ` (${dateText(r.day)})`}
        </span>
      ))}
      {found.first.length > 0 &&
        rest > 0 &&
        ` and ${found.more ? "others" : `${rest.toLocaleString("en")} more`}.`}
      {found.unclear && ` Of ${found.unclear.count} it cannot be told: ${found.unclear.why}`}{" "}
      <SampleOf found={found} />
    </p>
  );
}

function SampleOf({ found }: { found: Extract<StartPreview, { ok: true }> }) {
  const samples = useDraft((d) => d.definition.samples);
  const requester = useDraft((d) => d.sample?.requester ?? d.definition.owners[0] ?? "");
  const edit = useDraft((d) => d.edit);
  const learn = useDraft((d) => d.learn);
  const setSample = useDraft((d) => d.setSample);
  const ready = found.first.filter((r) => r.begins !== null);
  if (ready.length === 0) return null;
  return (
    <Menu
      align="start"
      trigger={
        <button type="button" className="underline">
          Make a sample of one…
        </button>
      }
      groups={[
        {
          heading: "A request as it would begin with",
          items: ready.map((r) => ({
            id: r.id,
            label: r.title,
            onPick: () => {
              for (const [register, rows] of Object.entries(found.records))
                for (const row of Object.values(rows)) learn(register, row);
              const name = r.title.slice(0, 60);
              const id = newId(name, (x) => samples.some((s) => s.id === x));
              const sample = { id, name, requester, data: r.begins! };
              if (edit({ op: "sample.put", after: samples.at(-1)?.id ?? null, sample })) setSample(id);
            },
          })),
        },
      ]}
    />
  );
}

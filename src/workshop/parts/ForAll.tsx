"use client";
import { useState } from "react";
import { useDraft } from "../draft/DraftProvider";

interface ForAllProps<From> {
  /** What is kept, by its name. */
  name: string;
  /** Whether it was taken from one that is kept for all, or is kept for all already. */
  taken: boolean;
  /** What is said where the one for all has changed since; null where it has not. */
  newer: string | null;
  /** Something else is being done with it. */
  busy?: boolean;
  keep(): Promise<{ ok: true; value: From } | { ok: false; sentence: string }>;
  onKept(from: From): void;
  onTake(): void;
}

/** Keeps something of the process for all processes, and takes what has become of the one it was taken from. */
export function ForAll<From>({ name, taken, newer, busy = false, keep, onKept, onTake }: ForAllProps<From>) {
  const { unsaved, tell } = useDraft();
  const [said, setSaid] = useState("");
  const [keeping, setKeeping] = useState(false);
  const waits = busy || keeping || unsaved;
  const go = async () => {
    setKeeping(true);
    const r = await keep().catch(() => null);
    setKeeping(false);
    setSaid(r?.ok ? "" : (r?.sentence ?? "The server could not be reached; nothing was done."));
    if (!r?.ok) return;
    onKept(r.value);
    tell(`“${name}” is kept for all processes as it is now.`);
  };
  return (
    <>
      {newer !== null && (
        <button type="button" className="link" disabled={busy} onClick={onTake}>
          {newer}
        </button>
      )}
      <button
        type="button"
        className="link aria-disabled:opacity-55"
        {...(waits ? { "aria-disabled": true, title: "It is being saved." } : {})}
        onClick={() => {
          if (!waits) void go();
        }}
      >
        {taken ? "Keep it as it is for all processes, too" : "Keep for all processes"}
      </button>
      {said && (
        <span role="alert" className="text-brick">
          {said}
        </span>
      )}
    </>
  );
}

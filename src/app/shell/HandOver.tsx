"use client";
import { useState } from "react";
import { Button, Dialog } from "@/ui";
import { PersonPicker } from "./PersonPicker";

/** Picks who answers instead, with a note for them. */
export function HandOver({
  open,
  onOpenChange,
  busy,
  mayReturn = false,
  onHand,
}: {
  open: boolean;
  onOpenChange(o: boolean): void;
  busy: boolean;
  /** Whether it can come back, with what they would answer. */
  mayReturn?: boolean;
  onHand(to: { id: string; title: string }, note: string, back: boolean): void;
}) {
  const [to, setTo] = useState<{ id: string; title: string } | null>(null);
  const [note, setNote] = useState("");
  const [back, setBack] = useState(false);
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Hand over">
      <p className="mb-3 text-soft">
        {back
          ? "They say what they would answer, then you have it again and answer. The limit stays as it is."
          : "Somebody else answers instead of you. The limit stays as it is."}
      </p>
      <p id="to-label" className="mb-1">
        To
      </p>
      <PersonPicker
        id="to"
        label="To"
        value={to?.id ?? null}
        placeholder="Choose…"
        onPick={(p) => setTo(p && { id: p.id, title: p.name })}
      />
      <label htmlFor="hand-note" className="mt-3 mb-1 block">
        Note for them
      </label>
      <textarea
        id="hand-note"
        rows={2}
        className="input mb-3"
        value={note}
        onChange={(e) => setNote(e.target.value)}
      />
      {mayReturn && (
        <label className="mb-4 flex min-h-8 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-[var(--moss)]"
            checked={back}
            onChange={(e) => setBack(e.target.checked)}
          />
          I want it back, and answer then
        </label>
      )}
      <div className="flex gap-2">
        <Button look="main" disabled={!to || busy} onClick={() => to && onHand(to, note, mayReturn && back)}>
          {to ? `Hand over to ${to.title}` : "Pick somebody first"}
        </Button>
        <Button onClick={() => onOpenChange(false)}>Keep it</Button>
      </div>
    </Dialog>
  );
}

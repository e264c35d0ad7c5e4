"use client";
import type { AnewSeen } from "@/web";
import { Button, Dialog } from "@/ui";
import { AnewList } from "./AnewList";

/** What an answer reads anew, to be seen before it counts. */
export function AnewDialog({
  answer,
  anew,
  busy,
  onAgree,
  onLeave,
}: {
  /** The words of the answer. */
  answer: string;
  anew: AnewSeen;
  busy: boolean;
  onAgree(): void;
  onLeave(): void;
}) {
  const title = anew.changes.length > 0 ? "These values are others now" : "Not all could be read anew";
  return (
    <Dialog open onOpenChange={(open) => !open && onLeave()} title={title} wide>
      <p className="mb-3">With “{answer}” they are read anew. Nothing has been answered yet.</p>
      <AnewList anew={anew} />
      <div className="mt-5 flex flex-wrap gap-3">
        <Button look="main" disabled={busy} onClick={onAgree}>
          {answer}, with these values
        </Button>
        <Button disabled={busy} onClick={onLeave}>
          Not yet
        </Button>
      </div>
    </Dialog>
  );
}

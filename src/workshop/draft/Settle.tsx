"use client";
import { useState } from "react";
import type { EditClash } from "@/core/route";
import { editRefusalSentence } from "@/core/words";
import { Button, Dialog, RadioGroup } from "@/ui";
import { useDraft } from "./DraftProvider";

const MOST = 160;

/** A value of the definition as somebody may read it; formulas and texts as they are. */
function shown(v: unknown): string {
  if (v === undefined) return "taken away";
  if (v === null || v === "") return "nothing";
  if (typeof v === "string") return `“${v.length > MOST ? `${v.slice(0, MOST)}…` : v}”`;
  if (typeof v === "boolean") return v ? "yes" : "no";
  if (typeof v === "number") return String(v);
  const text = JSON.stringify(v)
    .replace(/["{}[\]]/g, "")
    .replace(/,/g, ", ")
    .replace(/:/g, ": ");
  return text.length > MOST ? `${text.slice(0, MOST)}…` : text;
}

/** Two people changed the same: whoever comes second says what counts, with both values before them. */
export function Settle() {
  const asked = useDraft((d) => d.asked);
  const [theirs, setTheirs] = useState<ReadonlySet<EditClash>>(new Set());
  if (!asked) return null;
  const who = asked.by.join(", ");
  const open = asked.clashes.filter((c) => !c.gone);
  const gone = asked.clashes.filter((c) => c.gone);
  return (
    <Dialog open onOpenChange={() => undefined} title="Both of you changed the same" wide>
      <p className="mb-4 text-soft">
        {who} changed this draft while you did. Everything else of yours stands behind theirs; say here what
        counts. Nothing is sent before that.
      </p>
      <div className="grid gap-5">
        {open.map((c, i) => (
          <RadioGroup
            key={i}
            label={c.says}
            value={theirs.has(c) ? "theirs" : "mine"}
            options={[
              { id: "mine", label: `Mine: ${shown(c.mine)}` },
              { id: "theirs", label: `Of ${who}: ${shown(c.theirs)}` },
            ]}
            onPick={(id) =>
              setTheirs((s) => {
                const next = new Set(s);
                if (id === "theirs") next.add(c);
                else next.delete(c);
                return next;
              })
            }
          />
        ))}
        {gone.length + asked.refused.length > 0 && (
          <div>
            <p className="mb-1">This of yours has no place any more. Copy from here what you want to keep:</p>
            <ul className="list-disc pl-5">
              {gone.map((c, i) => (
                <li key={i}>
                  {c.says}, which {who} took away: {shown(c.mine)}
                </li>
              ))}
              {asked.refused.map((r) => (
                <li key={`r${r.at}`}>{editRefusalSentence(r.refusal)}</li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <p className="mt-5">
        <Button look="main" onClick={() => asked.settle([...theirs, ...gone])}>
          Go on like this
        </Button>
      </p>
    </Dialog>
  );
}

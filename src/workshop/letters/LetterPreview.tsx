"use client";
import { useState } from "react";
import { letterWritten, type Turn } from "@/core/engine";
import { letterPage, writtenText, type Letter } from "@/core/letter";
import type { ProcessDefinition } from "@/core/route";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { whereSent } from "./letterHere";

const WAYS = [
  ["desk", "At a desk"],
  ["phone", "On a phone"],
  ["text", "As plain text"],
] as const;
type Way = (typeof WAYS)[number][0];

/** The letter as the chosen sample's would arrive; what was filled in is lightly inked. */
export function LetterPreview({ letter, language }: { letter: Letter; language: string }) {
  const d = useDraft();
  const [way, setWay] = useState<Way>("desk");
  // Of the definition as last settled: a letter that has just been added is not in it yet.
  const written =
    d.turn && d.turn.release.letters.size > 0 ? forSample(d.turn, d.definition, letter, language) : null;
  const box = d.office.data.mailboxes.find((m) => m.address === d.definition.mailbox);
  return (
    <section aria-label="As it arrives" className="pl-4">
      <div className="mb-2 flex gap-x-4" role="group" aria-label="Shown">
        {WAYS.map(([id, name]) => (
          <button
            key={id}
            type="button"
            aria-pressed={way === id}
            className={classes(
              "min-h-7 border-b-2",
              way === id ? "border-moss font-medium" : "border-transparent text-soft hover:text-ink",
            )}
            onClick={() => setWay(id)}
          >
            {name}
          </button>
        ))}
      </div>
      {!d.turn && (
        <p className="text-soft">
          Keep a sample on the form sheet, and the letter stands here as it would be sent for that.
        </p>
      )}
      {written && "go" in written && (
        <p role="status" className="text-brick">
          For the sample it cannot be written: {stuckSentence(written.reason, KINDS)}
        </p>
      )}
      {written && !("go" in written) && (
        <>
          {!letter.closes && (
            <dl className="mb-2 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 text-sm">
              <dt className="text-soft">From</dt>
              <dd className="truncate">
                {box ? `${box.name} <${box.address}>` : "no mailbox yet: choose one under About"}
              </dd>
              <dt className="text-soft">Subject</dt>
              <dd className="break-words">{written.subject || "(no subject)"}</dd>
            </dl>
          )}
          {way === "text" ? (
            <pre className="max-h-[calc(100vh-19rem)] overflow-auto border border-line bg-raised p-4 font-mono text-sm whitespace-pre-wrap">
              {writtenText(written.letter.parts)}
            </pre>
          ) : (
            <iframe
              // Nothing in it runs, or leads anywhere.
              sandbox=""
              title="The letter as it arrives"
              srcDoc={letterPage(written.letter)}
              className={classes(
                "h-[calc(100vh-19rem)] border border-line bg-white",
                way === "phone" ? "w-[360px] max-w-full" : "w-full",
              )}
            />
          )}
        </>
      )}
    </section>
  );
}

/** In the language one looks at, whatever the sample would be written in. */
function forSample(turn: Turn, definition: ProcessDefinition, letter: Letter, language: string) {
  const known = [...turn.release.letters].find(([, l]) => l.id === letter.id);
  if (!known?.[1].texts.some((t) => t.language === language)) return null;
  const at = whereSent(turn, definition, letter.id);
  return at && letterWritten(turn, at, letter.id, { inked: true, language });
}

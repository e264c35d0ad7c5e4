"use client";
import Link from "next/link";
import type { ReactNode } from "react";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";

/** Whether something is written by a text of its own, or by one of the process's letters. */
export function LetterChoice({
  id,
  letter,
  own = "a text of its own",
  onPick,
  children,
}: {
  id: string;
  letter: string | undefined;
  /** What is written where it is none of them. */
  own?: string;
  onPick(letter: string | undefined): void;
  /** The text of its own. */
  children: ReactNode;
}) {
  const definition = useDraft((d) => d.definition);
  const letters = (definition.letters ?? []).filter((l) => !l.closes);
  const gone = letter !== undefined && !letters.some((l) => l.id === letter);
  return (
    <div className="grid gap-2">
      <div className="grid gap-1">
        <label htmlFor={id} className="text-sm text-soft">
          What is written
        </label>
        <Select
          id={id}
          value={letter ?? ""}
          empty={own}
          onPick={(v) => onPick(v || undefined)}
          options={[
            ...letters.map((l) => ({ value: l.id, label: `letter “${l.name}”` })),
            ...(gone ? [{ value: letter, label: "a letter that is not there any more" }] : []),
          ]}
        />
      </div>
      {letter === undefined ? (
        children
      ) : (
        <p className="text-sm">
          <Link className="link" href={`/workshop/${definition.key}/letters#${letter}`}>
            Read and change the letter
          </Link>
        </p>
      )}
    </div>
  );
}

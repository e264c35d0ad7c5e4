"use client";
import type { FormProblem } from "@/core/form";
import { formProblemSentence } from "@/core/words";

/** So many are listed; who mends these is told of the others. */
const MOST_LISTED = 12;

/** The sentences of what is wrong, each leading to its place. */
export function ProblemList({
  problems,
  onGoTo,
}: {
  problems: readonly FormProblem[];
  onGoTo(path: string): void;
}) {
  const more = problems.length - MOST_LISTED;
  return (
    <ul className="list-disc pl-5 text-brick">
      {problems.slice(0, MOST_LISTED).map((p) => (
        <li key={`${p.path} ${p.code}`}>
          <button type="button" className="min-h-6 text-left underline" onClick={() => onGoTo(p.path)}>
            {formProblemSentence(p)}
          </button>
        </li>
      ))}
      {more > 0 && <li>and {more} more</li>}
    </ul>
  );
}

"use client";
import { MAX_REASON, type FormProblem } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import type { FormAtHand } from "./useForm";

/** Checks that may be passed by saying why, each with the place to say it. */
export function Passing({
  form: { onPass, passed },
  problems,
}: {
  form: Pick<FormAtHand, "onPass" | "passed">;
  problems: readonly FormProblem[];
}) {
  if (problems.length === 0 || !onPass) return null;
  return (
    <section aria-label="Go on all the same" className="mt-4 mb-4 border-l-[3px] border-lichen pl-3">
      {problems.map((p) => (
        <label key={p.pass} className="mb-2 block last:mb-0">
          <span className="block">{formProblemSentence(p)}</span>
          <span className="mb-1 block text-sm text-soft">
            You may go on all the same. Say why: it stands with the request for everybody who sees it.
          </span>
          <input
            className="input max-w-xl"
            maxLength={MAX_REASON}
            value={passed[p.pass!] ?? ""}
            onChange={(e) => onPass(p.pass!, e.target.value)}
          />
        </label>
      ))}
    </section>
  );
}

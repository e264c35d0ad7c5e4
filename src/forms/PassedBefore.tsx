import type { PassedShown } from "@/core/form";

/** Checks that somebody went on past, with why: whoever decides sees them above the form. */
export function PassedBefore({ passed }: { passed: readonly PassedShown[] }) {
  if (passed.length === 0) return null;
  return (
    <ul aria-label="Gone on past" className="mb-4 border-l-[3px] border-lichen pl-3">
      {passed.map((p) => (
        <li key={p.key} className="mb-1 last:mb-0">
          {p.say} <span className="text-soft">{p.by} went on all the same:</span>{" "}
          <span className="break-words whitespace-pre-wrap">{p.why}</span>
        </li>
      ))}
    </ul>
  );
}

import { stuckSentence } from "@/core/words";
import type { StuckReason } from "@/core/engine";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";

/** What a rule finds for the sample; or nobody, or why that cannot be said. Nothing without a sample. */
export function SampleFinds({ found }: { found: readonly string[] | { reason: StuckReason } | null }) {
  if (!found) return null;
  const unclear = "reason" in found;
  const bad = unclear || found.length === 0;
  return (
    <p role="status" className={classes("border-t border-line pt-2 text-sm", bad && "text-brick")}>
      {unclear && `For the sample this is not known: ${stuckSentence(found.reason, KINDS)}`}
      {!unclear && bad && "For the sample nobody is found."}
      {!unclear && !bad && (
        <>
          For the sample: <span className="font-medium">{found.join(", ")}</span>
        </>
      )}
    </p>
  );
}

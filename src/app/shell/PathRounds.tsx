import type { ReactNode } from "react";
import type { PathRound, PathRounds as Rounds, PathStop } from "@/core/words";
import { classes } from "@/ui";

const STATE_WORDS: Record<PathRound["state"], string> = {
  done: "done",
  here: "under way",
  stuck: "held up",
  off: "called off",
};
const STONE: Record<PathRound["state"], string> = {
  done: "border-moss bg-moss",
  here: "border-moss bg-ground",
  stuck: "border-brick bg-brick-wash",
  off: "border-line-strong bg-sheet opacity-60",
};

/** The rounds of one step: a strip of small stones, filled as they end, and each round with its own way when it is opened. */
export function PathRounds({
  rounds,
  way,
}: {
  rounds: Rounds;
  way(stops: PathStop[], scope: string): ReactNode;
}) {
  const { of, ended, off, each } = rounds;
  const hidden = of - off - each.filter((r) => r.state !== "off").length;
  return (
    <span className="block">
      <span className="block text-sm">
        {ended} of {of} done{off > 0 && `, ${off} called off`}
      </span>
      <span aria-hidden className="my-1 flex flex-wrap gap-[3px]">
        {each.map((r) => (
          <span
            key={r.scope}
            className={classes("h-[9px] w-[11px] rounded-[55%_45%_50%_50%] border-[1.5px]", STONE[r.state])}
          />
        ))}
      </span>
      {each.map((r) => (
        <details key={r.scope} className="text-sm" open={each.length <= 3 && r.state === "here"}>
          <summary className="min-h-6 cursor-pointer py-[3px]">
            {r.words}
            <span className={r.state === "stuck" ? "text-brick" : "text-soft"}>
              , {roundOutcome(r) || STATE_WORDS[r.state]}
            </span>
          </summary>
          <div className="pt-1 pb-1 pl-1">
            {r.stops.length > 0 ? way(r.stops, r.scope) : <span className="text-soft">no steps yet</span>}
          </div>
        </details>
      ))}
      {hidden > 0 && each.length > 0 && <span className="block text-sm text-soft">and {hidden} more</span>}
    </span>
  );
}

/** What came of a round that is done, in a word: what was decided last. */
const roundOutcome = (r: PathRound): string =>
  r.state === "done" ? (r.stops.findLast((s) => s.outcome !== "")?.outcome ?? "") : "";

import type { PathStop } from "@/core/words";
import type { WaitingFor } from "@/services";
import { Pebble, whenText } from "@/ui";
import { PathRounds } from "./PathRounds";

const NAME_LOOK: Record<PathStop["state"], string> = {
  done: "",
  here: "font-medium",
  stuck: "font-medium",
  off: "text-soft",
};

/** Of a stone: what its first letters take, and each more. */
const STONE_REM = 1.3;
const LETTER_REM = 0.48;
const LEAST_REM = 3.1;

function hasIt({ beside, people }: WaitingFor): string {
  if (beside) return people.length > 1 ? "are asked something" : "is asked something";
  return people.length > 1 ? "may answer" : "has it";
}

function sleepText({ until, awaits }: PathStop, zone: string): string {
  const latest = until === undefined ? "" : whenText(until, zone);
  if (awaits) return `, waits until it is so${latest && `, no later than ${latest}`}`;
  return latest && `, sleeps until ${latest}`;
}

/** The way a request has gone, stone by stone, where it is, and what each answer leads to. */
export function Path({
  stops,
  waiting,
  zone,
  ended,
  scope = null,
  inside = "",
}: {
  stops: PathStop[];
  waiting: WaitingFor[];
  zone: string;
  ended: boolean;
  /** The round whose way it is; null for the request's own. */
  scope?: string | null;
  /** The procedures whose way it is; empty for the request's own. */
  inside?: string;
}) {
  const longest = Math.max(0, ...stops.map((s) => s.number.length));
  const columns = `${Math.max(LEAST_REM, STONE_REM + LETTER_REM * longest)}rem 1fr`;
  return (
    <ol className="relative">
      {stops.map((s, i) => (
        <li key={i} className="relative grid gap-x-2 pb-3" style={{ gridTemplateColumns: columns }}>
          {(i < stops.length - 1 || !ended) && (
            <span
              aria-hidden
              className="absolute top-6 bottom-0 left-[0.95rem] border-l-2 border-dotted border-line-strong"
            />
          )}
          <span>
            <Pebble tone={s.state === "here" || s.state === "stuck" ? s.state : "plain"}>{s.number}</Pebble>
          </span>
          <span className="pt-[2px]">
            <span className={NAME_LOOK[s.state]}>{s.name}</span>
            {s.state === "here" && <span className="sr-only"> (here now)</span>}
            {s.outcome && <span>: {s.outcome}</span>}
            <span className="block text-sm text-soft">
              {s.state === "here" ? "since " : ""}
              {whenText(s.at, zone)}
              {s.state === "here" && sleepText(s, zone)}
            </span>
            {s.rounds && (
              <PathRounds
                rounds={s.rounds}
                way={(within, round) => (
                  <Path stops={within} waiting={waiting} zone={zone} ended scope={round} inside={inside} />
                )}
              />
            )}
            {s.inner && (
              <details className="text-sm" open={s.state === "here" || s.state === "stuck"}>
                <summary className="min-h-6 cursor-pointer py-[3px] text-soft">
                  {s.inner.stops.length === 1 ? "one step of it" : `${s.inner.stops.length} steps of it`}
                </summary>
                <div className="pt-1 pb-1 pl-1">
                  <Path
                    stops={s.inner.stops}
                    waiting={waiting}
                    zone={zone}
                    ended
                    inside={inside ? `${inside}/${s.inner.call}` : s.inner.call}
                  />
                </div>
              </details>
            )}
            {s.said.map((x, k) => (
              <span key={k} className="block text-sm">
                {x.by ?? "The ladder"}: {x.answer}
              </span>
            ))}
            {s.state === "here" &&
              waiting
                .filter((w) => w.inside === inside && w.scope === scope && w.at === s.name)
                .map((w) => (
                  <span key={w.task} className="mt-1 block">
                    {w.people.map((p) => p.name + (p.coversFor ? ` (for ${p.coversFor})` : "")).join(", ")}{" "}
                    {hasIt(w)}
                    {w.still !== null && `; its limit stands still since ${whenText(w.still, zone)}`}
                    {w.due !== null && `, until ${whenText(w.due, zone)}`}.
                    {w.next.map((n) => (
                      <span key={n.answer} className="block text-sm text-soft">
                        {n.answer}: {n.then}
                      </span>
                    ))}
                  </span>
                ))}
          </span>
        </li>
      ))}
    </ol>
  );
}

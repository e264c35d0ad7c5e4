import { classes, Pebble } from "@/ui";

function toneOf(here: boolean, behind: boolean): "here" | "plain" | "quiet" {
  if (here) return "here";
  return behind ? "plain" : "quiet";
}

/** How far a request has come, in the few words its owner chose: stones one steps over, from left to right. */
export function StagesReached({
  names,
  at,
  ended,
}: {
  names: readonly string[];
  /** Which of them it stands in, from 0; null where it comes before the first. */
  at: number | null;
  ended: boolean;
}) {
  return (
    <ol aria-label="Stages" className="mb-5 flex flex-wrap items-center gap-y-1.5">
      {names.map((name, i) => {
        const here = i === at;
        const behind = at !== null && i < at;
        return (
          <li key={name} aria-current={here ? "step" : undefined} className="flex min-w-0 items-center">
            <Pebble tone={toneOf(here, behind)}>{String(i + 1)}</Pebble>
            <span
              className={classes(
                "ml-2 min-w-0 break-words",
                here && "font-medium",
                !here && !behind && "text-faint",
              )}
            >
              {name}
              {here && <span className="sr-only">{ended ? " (ended here)" : " (here now)"}</span>}
              {behind && <span className="sr-only"> (done)</span>}
            </span>
            {/* Behind the name: on a phone a new line begins with a stone. */}
            {i < names.length - 1 && (
              <span aria-hidden className="mx-2 w-6 border-t-2 border-dotted border-line-strong" />
            )}
          </li>
        );
      })}
    </ol>
  );
}

"use client";
import { calendarFor, ladderDates, limitReached, spanLimit } from "@/core/engine";
import { addLength, lengthInWords } from "@/core/calendar";
import type { Scope } from "@/core/expression";
import { tidy, type Limit, type Rung } from "@/core/route";
import { Button, whenText } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { LadderStrip } from "./LadderStrip";
import type { RungDeeds } from "./ladderDeeds";
import { LimitLengths } from "./LimitLengths";
import { Rungs } from "./Rungs";
import { SampleFinds } from "./SampleFinds";

interface Props {
  /** The part it is of; empty for the whole request. */
  id: string;
  limit: Limit | undefined;
  scope: Scope;
  /** What is to be done by it, as in "all of this part". */
  of: string;
  onPut(limit: Limit | null): void;
}

const USUAL: Limit = {
  otherwise: { amount: 10, unit: "working days" },
  rungs: [{ id: "late", when: "at", action: { do: "remind" } }],
};

/** By when several steps are to be done together, and what happens around that, beside the days it falls on. */
export function SpanLimit({ limit, of, onPut, ...rest }: Props) {
  const ladder = limit?.rungs.length ? `, ladder of ${limit.rungs.length}` : "";
  const byRule = limit?.rules?.length ? ", by rule" : "";
  return (
    <Chip
      text={limit ? `${lengthInWords(limit.otherwise)} for ${of}${byRule}${ladder}` : `no limit for ${of}`}
      label={`Limit for ${of}`}
      width={620}
    >
      {() =>
        limit ? (
          <Editor limit={limit} onPut={onPut} {...rest} />
        ) : (
          <div className="grid gap-2">
            <p className="text-soft">
              Steps have limits of their own. One for {of} runs beside them, and whoever has something by then
              is reminded.
            </p>
            <Button onClick={() => onPut(USUAL)}>Set a limit of 10 working days</Button>
          </div>
        )
      }
    </Chip>
  );
}

function Editor({ id, limit, scope, onPut }: Omit<Props, "limit" | "of"> & { limit: Limit }) {
  const d = useDraft();
  // By what the release of the draft knows: what was typed a moment ago is not compiled yet.
  const settled = d.turn ? spanLimit(d.turn.release, id) : undefined;
  const at = { step: id, scope: null };
  const calendar = d.turn ? calendarFor(d.turn, []) : d.facts.calendar(d.definition.calendar);
  const given = d.turn && settled ? limitReached(d.turn, at, settled, calendar) : null;
  const unclear = given && "go" in given ? given : null;
  // Where it cannot be said for the sample, the strip shows the ordinary length.
  const due = given && "due" in given ? given.due : addLength(calendar, d.now, limit.otherwise);
  const dates = ladderDates(calendar, d.now, due, limit.rungs);
  const put = (rungs: Rung[]) => onPut({ ...limit, rungs });
  const { rungs } = limit;
  const deeds: RungDeeds = {
    add: (after, rung) => put(rungs.toSpliced(rungs.findIndex((r) => r.id === after) + 1, 0, rung)),
    set: (rung, patch) => put(rungs.map((r) => (r.id === rung ? tidy({ ...r, ...patch } as Rung) : r))),
    remove: (rung) => put(rungs.filter((r) => r.id !== rung)),
  };
  return (
    <div className="grid gap-3">
      <div>
        <LadderStrip calendar={calendar} openedAt={d.now} dates={dates} rungs={rungs} said="" />
        {unclear && <SampleFinds found={unclear} />}
      </div>
      <LimitLengths
        limit={limit}
        scope={scope}
        opens={id === "" ? "from its beginning" : "from when it is come to"}
        onChange={onPut}
      />
      <section>
        <h3 className="mb-1">What happens</h3>
        <Rungs
          id={id || "whole"}
          rungs={rungs}
          answers={[]}
          ofMany
          scope={scope}
          falls={(rung) =>
            dates.rungs
              .filter((x) => x.rung.id === rung)
              .slice(0, 2)
              .map((x) => whenText(x.at, calendar.zone))
              .join(", ")
          }
          deeds={deeds}
        />
      </section>
      <div>
        <Button small look="quiet" onClick={() => onPut(null)}>
          Take the limit away
        </Button>
      </div>
    </div>
  );
}

"use client";
import { calendarFor, ladderDates, limitReached, whoWouldBeAsked } from "@/core/engine";
import { addLength, lengthInWords } from "@/core/calendar";
import type { Scope } from "@/core/expression";
import { stepKind } from "@/core/kinds";
import { rungsOfStep, type Limit } from "@/core/route";
import { limitFromInWords, limitStillInWords } from "@/core/words";
import { KINDS } from "@/kinds";
import { Button, whenText } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { drawnInWords, limitDrawnTo, rungDrawnTo } from "./drawnTo";
import { LadderChoice } from "./LadderChoice";
import { deedsOfLadder, deedsOfStep } from "./ladderDeeds";
import { LadderStrip, type StripDrag } from "./LadderStrip";
import type { Limited } from "./limited";
import { LimitLengths } from "./LimitLengths";
import { LimitStill } from "./LimitStill";
import { OtherLimits } from "./OtherLimits";
import { SampleFinds } from "./SampleFinds";
import { useSettled } from "./settled";
import { useSampleAt } from "./StepHere";

/** How long a step may take, what the length hangs on, and what happens before and after. */
export function LimitEditor({ step, scope }: { step: Limited; scope: Scope }) {
  const d = useDraft();
  const { limit } = step;
  const settled = useSettled(step);
  const at = useSampleAt();
  const put = (next: Limit | null) => d.edit({ op: "step.set", id: step.id, patch: { limit: next } });
  const known =
    d.turn && at && settled?.limit ? { turn: d.turn, step: settled, limit: settled.limit, at } : null;
  const asked = known && whoWouldBeAsked(known.turn, known.at, known.step.who);
  const calendar =
    known && asked && !("go" in asked)
      ? calendarFor(
          known.turn,
          asked.map((c) => c.person),
        )
      : d.facts.calendar(d.definition.calendar);
  const given = known && limitReached(known.turn, known.at, known.limit, calendar);
  const unclear = given && "go" in given ? given : null;
  // Where it cannot be said for the sample, the strip shows the ordinary length by the process's calendar.
  const due = given && !unclear && "due" in given ? given.due : addLength(calendar, d.now, limit.otherwise);
  const rungs = rungsOfStep(step, d.definition.ladders, KINDS);
  const dates = ladderDates(calendar, d.now, due, rungs);
  const ladder = d.definition.ladders?.find((l) => l.id === limit.ladder);
  const deeds = ladder ? deedsOfLadder(ladder, d.edit) : deedsOfStep(step.id, d.edit);
  const drag: StripDrag | undefined =
    due === null
      ? undefined
      : {
          // What a rule or another moment decides is not said by where the post stands.
          may: (mark) => mark !== "limit" || (!limit.rules?.length && !limit.from),
          says(mark, to) {
            if (mark !== "limit")
              return `Rung ${rungs.indexOf(mark) + 1}: ${drawnInWords(rungDrawnTo(mark, calendar, due, to))}`;
            const length = limitDrawnTo(limit.otherwise, calendar, d.now, to);
            return `Limit: ${lengthInWords(length ?? limit.otherwise)}`;
          },
          put(mark, to) {
            if (mark !== "limit") return deeds.set(mark.id, rungDrawnTo(mark, calendar, due, to));
            const length = limitDrawnTo(limit.otherwise, calendar, d.now, to);
            if (length) put({ ...limit, otherwise: length });
          },
        };
  const answers = stepKind(KINDS, step).asks?.answers(step) ?? [];
  const counted = `${limit.from ? `, counted ${limitFromInWords(limit.from)}` : ""}${limit.still ? `, standing still ${limitStillInWords[limit.still]}` : ""}`;
  return (
    <div className="grid gap-3">
      <div>
        <LadderStrip
          calendar={calendar}
          openedAt={d.now}
          dates={dates}
          rungs={rungs}
          said={counted}
          {...(drag ? { drag } : {})}
        />
        {unclear && <SampleFinds found={unclear} />}
        {/* By what the release of the draft knows: what was typed a moment ago is not compiled yet. */}
        {known && <OtherLimits step={step.id} who={known.step.who} limit={known.limit} />}
      </div>
      <LimitLengths limit={limit} scope={scope} onChange={put} />
      <LimitStill limit={limit} onChange={put} />
      <LadderChoice
        step={step}
        scope={scope}
        answers={answers}
        falls={(rung) =>
          dates.rungs
            .filter((x) => x.rung.id === rung)
            .slice(0, 2)
            .map((x) => whenText(x.at, calendar.zone))
            .join(", ")
        }
      />
      <div>
        <Button small look="quiet" onClick={() => put(null)}>
          Take the limit away
        </Button>
      </div>
    </div>
  );
}

"use client";
import { calendarFor, ladderDates, lengthGiven, whoWouldBeAsked } from "@/core/engine";
import { YESNO, type Scope } from "@/core/expression";
import { rungKind } from "@/core/kinds";
import type { Limit, Rung } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, whenText } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "./FormulaCell";
import { LadderStrip } from "./LadderStrip";
import { LengthInput } from "./LengthInput";
import { newId } from "./newId";
import { useRuleText } from "./ruleText";
import { RungEditor, type Limited } from "./RungEditor";
import { useSettled } from "./settled";
import { useNamesHere, useSampleAt } from "./StepHere";

/** How long a step may take, what the length hangs on, and what happens before and after. */
export function LimitEditor({ step, scope }: { step: Limited; scope: Scope }) {
  const d = useDraft();
  const { limit } = step;
  const settled = useSettled(step);
  const names = useNamesHere();
  const at = useSampleAt();
  const rules = limit.rules ?? [];
  const put = (next: Limit | null) => d.edit({ op: "step.set", id: step.id, patch: { limit: next } });
  const setRules = (next: NonNullable<Limit["rules"]>) => {
    const { rules: _old, ...rest } = limit;
    put(next.length > 0 ? { ...rest, rules: next } : rest);
  };
  const known =
    d.turn && at && settled?.limit ? { turn: d.turn, step: settled, limit: settled.limit, at } : null;
  // Where it cannot be said for the sample, the strip shows the ordinary length by the process's calendar.
  const given = known && lengthGiven(known.turn, known.at, known.limit);
  const asked = known && whoWouldBeAsked(known.turn, known.at, known.step.who);
  const chosen = given && !("go" in given) ? given.length : limit.otherwise;
  const calendar =
    known && asked && !("go" in asked)
      ? calendarFor(
          known.turn,
          asked.map((c) => c.person),
        )
      : d.facts.calendar(d.definition.calendar);
  const dates = ladderDates(calendar, d.now, chosen, limit.rungs);
  const text = useRuleText();
  const words = (r: Rung) => rungKind(KINDS, r.action).words(r.action, (rule) => text(rule, true));
  const swap = (i: number) =>
    rules.map((x, k) => {
      if (k === i - 1) return rules[i]!;
      return k === i ? rules[i - 1]! : x;
    });
  return (
    <div className="grid gap-3">
      <LadderStrip calendar={calendar} openedAt={d.now} length={chosen} rungs={limit.rungs} words={words} />
      <section>
        <h3 className="mb-1">How long</h3>
        {rules.map((r, i) => (
          <div
            key={i}
            className="mb-1 grid grid-cols-[auto_minmax(0,1fr)_auto_auto] items-center gap-1.5 text-sm"
          >
            <LengthInput
              label={`Length by rule ${i + 1}`}
              value={r.length}
              onChange={(length) => setRules(rules.map((x, k) => (k === i ? { ...x, length } : x)))}
            />
            <FormulaCell
              label={`Rule ${i + 1}: when`}
              value={r.when}
              scope={scope}
              wanted={YESNO}
              names={names}
              onCommit={(when) => setRules(rules.map((x, k) => (k === i ? { ...x, when } : x)))}
            />
            <Button small look="quiet" disabled={i === 0} onClick={() => setRules(swap(i))}>
              Up
            </Button>
            <Button small look="quiet" onClick={() => setRules(rules.filter((_, k) => k !== i))}>
              Remove
            </Button>
          </div>
        ))}
        <div className="flex flex-wrap items-center gap-2 text-sm">
          {rules.length > 0 && <span className="text-soft">otherwise</span>}
          <LengthInput
            label="Length"
            value={limit.otherwise}
            onChange={(otherwise) => put({ ...limit, otherwise })}
          />
          <Button
            small
            onClick={() =>
              setRules([...rules, { when: "true", length: { amount: 1, unit: "working days" } }])
            }
          >
            Another length by rule
          </Button>
        </div>
      </section>
      <section>
        <h3 className="mb-1">Ladder</h3>
        <ol>
          {limit.rungs.map((r, i) => (
            <RungEditor
              key={r.id}
              step={step}
              rung={r}
              number={i + 1}
              scope={scope}
              falls={dates.rungs
                .filter((x) => x.rung.id === r.id)
                .slice(0, 2)
                .map((x) => whenText(x.at, calendar.zone))
                .join(", ")}
            />
          ))}
        </ol>
        <div className="flex flex-wrap gap-2">
          <Button
            small
            onClick={() =>
              d.edit({
                op: "rung.add",
                step: step.id,
                after: limit.rungs.at(-1)?.id ?? null,
                rung: {
                  id: newId("rung", (x) => limit.rungs.some((r) => r.id === x)),
                  when: "at",
                  action: { do: "hand over", to: { by: "manager" } },
                },
              })
            }
          >
            Add a rung
          </Button>
          <Button small look="quiet" onClick={() => put(null)}>
            Take the limit away
          </Button>
        </div>
      </section>
    </div>
  );
}

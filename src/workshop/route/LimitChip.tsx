"use client";
import { YESNO, type Scope } from "@/core/expression";
import { lengthInWords, type Length } from "@/core/calendar";
import { calendarFor, candidatesOf, ladderDates, lengthFor } from "@/core/engine";
import type { Limit, Rung, RungAction, StepOf } from "@/core/process";
import { Button, whenText } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../draft/FormulaCell";
import { newId } from "../draft/newId";
import { TemplateCell } from "../draft/TemplateCell";
import { TextCell } from "../draft/TextCell";
import { Chip } from "./Chip";
import { LadderStrip } from "./LadderStrip";
import { LengthInput } from "./LengthInput";
import { RuleEditor } from "./RuleEditor";
import { ruleText } from "./ruleText";

type Asking = StepOf<"decide"> | StepOf<"complete">;

const ACTIONS: [RungAction["do"], string][] = [
  ["remind", "remind"],
  ["tell", "tell somebody"],
  ["add", "ask somebody else too"],
  ["hand over", "hand over"],
  ["answer", "answer on their behalf"],
];

/** A time limit and its ladder, edited beside the real days it falls on for the sample. */
export function LimitChip({ step, scope }: { step: Asking; scope: Scope }) {
  const d = useDraft();
  const limit = step.limit;
  const put = (next: Limit | undefined) => {
    const { limit: _old, ...rest } = step;
    d.edit({ op: "step.put", step: (next ? { ...rest, limit: next } : rest) as Asking });
  };
  const text = limit
    ? `${lengthInWords(limit.otherwise)}${limit.rules?.length ? ", by rule" : ""}${limit.rungs.length ? `, ladder of ${limit.rungs.length}` : ""}`
    : "no limit";
  return (
    <Chip text={text} label="Limit" width={620}>
      {() =>
        limit ? (
          <LimitEditor step={step} limit={limit} put={put} scope={scope} />
        ) : (
          <div className="grid gap-2">
            <p className="text-soft">Without a limit it may wait for ever, and nobody is reminded.</p>
            <Button
              onClick={() =>
                put({
                  otherwise: { amount: 2, unit: "working days" },
                  rungs: [
                    {
                      id: "remind",
                      when: "before",
                      length: { amount: 4, unit: "working hours" },
                      action: { do: "remind" },
                    },
                  ],
                })
              }
            >
              Set a limit of 2 working days
            </Button>
          </div>
        )
      }
    </Chip>
  );
}

function LimitEditor({
  step,
  limit,
  put,
  scope,
}: {
  step: Asking;
  limit: Limit;
  put(l: Limit | undefined): void;
  scope: Scope;
}) {
  const d = useDraft();
  const names = d.turn?.names() ?? null;
  const rules = limit.rules ?? [];
  const setRules = (next: NonNullable<Limit["rules"]>) => {
    const { rules: _old, ...rest } = limit;
    put(next.length > 0 ? { ...rest, rules: next } : rest);
  };
  const setRung = (i: number, rung: Rung) =>
    put({ ...limit, rungs: limit.rungs.map((r, k) => (k === i ? rung : r)) });
  const chosen: Length = d.turn ? lengthFor(d.turn, step.id, limit).length : limit.otherwise;
  const calendar = d.turn
    ? calendarFor(
        d.turn,
        candidatesOf(d.turn, step.id, step.who).map((c) => c.person),
      )
    : d.facts.calendar(d.definition.calendar);
  const dates = ladderDates(calendar, d.now, chosen, limit.rungs);
  const words = (r: Rung) =>
    r.action.do === "hand over"
      ? `hand over to ${ruleText(r.action.to, d.office.data, true)}`
      : (ACTIONS.find(([a]) => a === r.action.do)?.[1] ?? "");
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
            <Button
              small
              look="quiet"
              disabled={i === 0}
              onClick={() => setRules(rules.map((x, k) => (k === i - 1 ? r : k === i ? rules[i - 1]! : x)))}
            >
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
            <li key={r.id} className="mb-2 grid gap-1 border-t border-line pt-1.5 text-sm">
              <div className="flex flex-wrap items-center gap-1.5">
                <span className="w-4 font-medium text-moss">{i + 1}</span>
                <select
                  aria-label={`Rung ${i + 1}: before or after`}
                  className="input !w-24"
                  value={r.when}
                  onChange={(e) =>
                    setRung(i, {
                      ...r,
                      when: e.target.value as Rung["when"],
                      ...(e.target.value === "at"
                        ? {}
                        : { length: r.length ?? { amount: 1, unit: "working days" } }),
                    })
                  }
                >
                  <option value="before">before</option>
                  <option value="at">at</option>
                  <option value="after">after</option>
                </select>
                {r.when !== "at" && r.length && (
                  <LengthInput
                    label={`Rung ${i + 1}`}
                    value={r.length}
                    onChange={(length) => setRung(i, { ...r, length })}
                  />
                )}
                <select
                  aria-label={`Rung ${i + 1}: what happens`}
                  className="input !w-44"
                  value={r.action.do}
                  onChange={(e) =>
                    setRung(i, { ...r, action: blankAction(e.target.value as RungAction["do"], step) })
                  }
                >
                  {ACTIONS.filter(([a]) => a !== "answer" || step.kind === "decide").map(([a, w]) => (
                    <option key={a} value={a}>
                      {w}
                    </option>
                  ))}
                </select>
                <Button
                  small
                  look="quiet"
                  onClick={() => put({ ...limit, rungs: limit.rungs.filter((_, k) => k !== i) })}
                >
                  Remove
                </Button>
              </div>
              <div className="ml-5 grid gap-1">
                {r.action.do === "hand over" && (
                  <RuleEditor
                    id={`rung-${step.id}-${r.id}`}
                    rule={r.action.to}
                    scope={scope}
                    onChange={(to) => setRung(i, { ...r, action: { do: "hand over", to } })}
                  />
                )}
                {r.action.do === "add" && (
                  <RuleEditor
                    id={`rung-${step.id}-${r.id}`}
                    rule={r.action.who}
                    scope={scope}
                    onChange={(who) => setRung(i, { ...r, action: { do: "add", who } })}
                  />
                )}
                {r.action.do === "tell" && (
                  <TellRung r={r} i={i} scope={scope} id={`rung-${step.id}-${r.id}`} setRung={setRung} />
                )}
                {r.action.do === "answer" && step.kind === "decide" && (
                  <span className="flex gap-1.5">
                    <select
                      aria-label={`Rung ${i + 1}: answer`}
                      className="input !w-44"
                      value={r.action.answer}
                      onChange={(e) =>
                        setRung(i, {
                          ...r,
                          action: {
                            ...(r.action as Extract<RungAction, { do: "answer" }>),
                            answer: e.target.value,
                          },
                        })
                      }
                    >
                      {step.answers.map((a) => (
                        <option key={a.id} value={a.id}>
                          {a.label}
                        </option>
                      ))}
                    </select>
                    <TextCell
                      className="input"
                      aria-label={`Rung ${i + 1}: note`}
                      value={r.action.note}
                      onCommit={(note) =>
                        setRung(i, {
                          ...r,
                          action: { ...(r.action as Extract<RungAction, { do: "answer" }>), note },
                        })
                      }
                    />
                  </span>
                )}
                <span className="flex flex-wrap items-center gap-1.5 text-soft">
                  <label className="flex items-center gap-1.5">
                    <input
                      type="checkbox"
                      className="size-4 accent-[var(--moss)]"
                      checked={r.every !== undefined}
                      onChange={(e) =>
                        setRung(
                          i,
                          e.target.checked
                            ? { ...r, every: { amount: 1, unit: "working days" }, times: 3 }
                            : once(r),
                        )
                      }
                    />
                    again every
                  </label>
                  {r.every && (
                    <>
                      <LengthInput
                        label={`Rung ${i + 1}: again every`}
                        value={r.every}
                        onChange={(every) => setRung(i, { ...r, every })}
                      />
                      <input
                        type="number"
                        min={1}
                        max={50}
                        aria-label={`Rung ${i + 1}: how many times`}
                        className="input !w-16"
                        value={r.times ?? 1}
                        onChange={(e) =>
                          setRung(i, { ...r, times: Math.max(1, Math.min(50, Number(e.target.value) || 1)) })
                        }
                      />{" "}
                      times
                    </>
                  )}
                  <span>
                    ·{" "}
                    {dates.rungs
                      .filter((x) => x.rung.id === r.id)
                      .slice(0, 2)
                      .map((x) => whenText(x.at, calendar.zone))
                      .join(", ") || "before it is even asked: left out"}
                  </span>
                </span>
              </div>
            </li>
          ))}
        </ol>
        <div className="flex flex-wrap gap-2">
          <Button
            small
            onClick={() =>
              put({
                ...limit,
                rungs: [
                  ...limit.rungs,
                  {
                    id: newId("rung", (x) => limit.rungs.some((r) => r.id === x)),
                    when: "at",
                    action: { do: "hand over", to: { by: "manager" } },
                  },
                ],
              })
            }
          >
            Add a rung
          </Button>
          <Button small look="quiet" onClick={() => put(undefined)}>
            Take the limit away
          </Button>
        </div>
      </section>
    </div>
  );
}

function TellRung({
  r,
  i,
  scope,
  id,
  setRung,
}: {
  r: Rung;
  i: number;
  scope: Scope;
  id: string;
  setRung(i: number, r: Rung): void;
}) {
  if (r.action.do !== "tell") return null;
  const action = r.action;
  return (
    <>
      <RuleEditor
        id={id}
        rule={action.who}
        scope={scope}
        onChange={(who) => setRung(i, { ...r, action: { ...action, who } })}
      />
      <TemplateCell
        label={`Rung ${i + 1}: text`}
        value={action.text}
        scope={scope}
        onCommit={(text) => setRung(i, { ...r, action: { ...action, text } })}
      />
    </>
  );
}

function once(r: Rung): Rung {
  const { every: _every, times: _times, ...rest } = r;
  return rest;
}

function blankAction(kind: RungAction["do"], step: Asking): RungAction {
  switch (kind) {
    case "remind":
      return { do: "remind" };
    case "tell":
      return { do: "tell", who: { by: "requester" }, text: "{Request.number} is still waiting." };
    case "add":
      return { do: "add", who: { by: "manager" } };
    case "hand over":
      return { do: "hand over", to: { by: "manager" } };
    case "answer":
      return {
        do: "answer",
        answer: step.kind === "decide" ? (step.answers[0]?.id ?? "") : "",
        note: "No answer in time.",
      };
  }
}

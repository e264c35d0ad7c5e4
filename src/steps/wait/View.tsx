"use client";
import { Hourglass } from "lucide-react";
import { lengthInWords, type Length } from "@/core/calendar";
import { sleepsUntil } from "@/core/engine";
import { DATE, DATETIME, YESNO, type Names, type Scope, type Type } from "@/core/expression";
import type { StepOf } from "@/core/route";
import { Button, Select, whenText } from "@/ui";
import {
  Chip,
  FormulaCell,
  LengthInput,
  newId,
  StepName,
  useDraft,
  useNamesHere,
  useSampleAt,
  useSettled,
  WayOnChip,
} from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";
import { MOST_AWAITED } from "./shape";

type Wait = StepOf<"wait">;
type Awaited = Wait["for"][number];

const A_DAY: Length = { amount: 1, unit: "working days" };
const KINDS_OF = ["length", "date", "moment", "holds"] as const;
type KindOf = (typeof KINDS_OF)[number];
const kindOf = (a: Awaited): KindOf => KINDS_OF.find((k) => k in a)!;
const BLANK: Record<KindOf, (id: string) => Awaited> = {
  length: (id) => ({ id, length: A_DAY }),
  date: (id) => ({ id, date: "" }),
  moment: (id) => ({ id, moment: "" }),
  holds: (id) => ({ id, holds: "" }),
};
/** The formula of one that has one: what stands in it, how it looks and how it is changed. */
const FORMULA: Record<
  Exclude<KindOf, "length">,
  { wanted: Type; placeholder: string; read(a: Awaited): string; put(id: string, text: string): Awaited }
> = {
  date: {
    wanted: DATE,
    placeholder: "e.g. a date of the form",
    read: (a) => ("date" in a ? a.date : ""),
    put: (id, date) => ({ id, date }),
  },
  moment: {
    wanted: DATETIME,
    placeholder: "e.g. now() + a length",
    read: (a) => ("moment" in a ? a.moment : ""),
    put: (id, moment) => ({ id, moment }),
  },
  holds: {
    wanted: YESNO,
    placeholder: 'e.g. Object.Status = "in store"',
    read: (a) => ("holds" in a ? a.holds : ""),
    put: (id, holds) => ({ id, holds }),
  },
};

function awaitedText(a: Awaited): string {
  if ("length" in a) return `for ${lengthInWords(a.length)}`;
  const kind = kindOf(a);
  const formula = kind === "length" ? "" : FORMULA[kind].read(a);
  return `until ${formula || "?"}`;
}
const waitText = (s: Wait): string =>
  s.for.length === 0 ? "for nothing yet" : s.for.map(awaitedText).join(", or ");

/** What is waited for, the first of it that comes. */
function ForChip({ step, scope }: SentenceProps<"wait">) {
  const d = useDraft();
  const names = useNamesHere();
  const put = (next: Awaited[]) => d.edit({ op: "step.set", id: step.id, patch: { for: next } });
  const conditions = step.for.filter((a) => "holds" in a).length;
  const way = step.ways[0];
  const pickLate = (late: string) => {
    if (late === "on") return way && d.edit({ op: "list.remove", step: step.id, list: way.id });
    const list = { id: newId(`${step.id}-late`, () => false), steps: [] };
    d.edit({ op: "list.add", step: step.id, after: null, list });
  };
  const change = (i: number, a: Awaited) => put(step.for.map((x, k) => (k === i ? a : x)));
  return (
    <Chip text={waitText(step)} label="What is waited for" empty={step.for.length === 0} width={560}>
      {() => (
        <div className="grid gap-1.5 text-sm">
          {step.for.map((a, i) => (
            <div key={a.id} className="grid grid-cols-[10rem_minmax(0,1fr)_auto] items-center gap-x-2">
              <Select
                aria-label={`What ${i + 1} is`}
                value={kindOf(a)}
                onPick={(kind) => change(i, BLANK[kind as KindOf](a.id))}
                options={[
                  { value: "length", label: "for a length" },
                  { value: "date", label: "until a date" },
                  { value: "moment", label: "until a date and time" },
                  { value: "holds", label: "until it is so that" },
                ]}
              />
              {"length" in a ? (
                <LengthInput
                  label={`Length ${i + 1}`}
                  value={a.length}
                  onChange={(length) => change(i, { id: a.id, length })}
                />
              ) : (
                <UntilFormula
                  awaited={a}
                  label={`Until ${i + 1}`}
                  scope={scope}
                  names={names}
                  onChange={(x) => change(i, x)}
                />
              )}
              <Button small look="quiet" onClick={() => put(step.for.filter((_, k) => k !== i))}>
                Remove
              </Button>
            </div>
          ))}
          {step.for.length < MOST_AWAITED && (
            <Button
              small
              className="justify-self-start"
              onClick={() =>
                put([
                  ...step.for,
                  BLANK.length(newId(`${step.id}-for`, (id) => step.for.some((a) => a.id === id))),
                ])
              }
            >
              {step.for.length === 0 ? "Wait for something" : "Or for something else, if that comes first"}
            </Button>
          )}
          {conditions > 0 && (conditions < step.for.length || way) && (
            <label className="grid grid-cols-[10rem_minmax(0,1fr)] items-center gap-x-2">
              <span className="text-soft">If it does not come</span>
              <Select
                value={way ? "way" : "on"}
                onPick={pickLate}
                disabled={(way?.steps.length ?? 0) > 0}
                options={[
                  { value: "on", label: "go on when the time is over" },
                  { value: "way", label: "take a way of its own" },
                ]}
              />
            </label>
          )}
          <SampleWaits step={step} />
        </div>
      )}
    </Chip>
  );
}

function UntilFormula({
  awaited,
  label,
  scope,
  names,
  onChange,
}: {
  awaited: Awaited;
  label: string;
  scope: Scope;
  names: Names | null;
  onChange(a: Awaited): void;
}) {
  const kind = kindOf(awaited);
  if (kind === "length") return null;
  const { wanted, placeholder, read, put } = FORMULA[kind];
  return (
    <FormulaCell
      label={label}
      placeholder={placeholder}
      value={read(awaited)}
      scope={scope}
      wanted={wanted}
      names={names}
      onCommit={(t) => onChange(put(awaited.id, t))}
    />
  );
}

/** Until when the chosen sample would sleep. */
function SampleWaits({ step }: { step: Wait }) {
  const d = useDraft();
  const settled = useSettled(step);
  const at = useSampleAt();
  if (!d.turn || !at || !settled) return null;
  const sleeps = sleepsUntil(d.turn, at);
  const day = (until: number) => whenText(until, d.facts.calendar(d.definition.calendar).zone);
  const text = () => {
    if (!sleeps) return "For the sample it does not wait.";
    if ("go" in sleeps) return "For the sample it cannot be told.";
    const { until, awaits } = sleeps;
    if (!awaits) return until === null ? "" : `For the sample, begun now: ${day(until)}`;
    return `For the sample it is not so yet; it waits${until === null ? " for as long as that takes" : `, no later than ${day(until)}`}.`;
  };
  return (
    <p role="status" className="border-t border-line pt-2">
      {text()}
    </p>
  );
}

function Sentence(p: SentenceProps<"wait">) {
  return (
    <>
      <StepName step={p.step} />
      <ForChip {...p} />
    </>
  );
}

/** The way for what does not come. */
function ListHead({ step, list }: ListHeadProps<"wait">) {
  return (
    <span className="flex flex-wrap items-center gap-x-1.5">
      <span className="text-sm text-soft">when it does not come</span>
      <span aria-hidden>→</span>
      <WayOnChip step={step.id} list={list.id} steps={list.steps} />
    </span>
  );
}

export const view: StepView<"wait"> = { icon: Hourglass, Sentence, ListHead };

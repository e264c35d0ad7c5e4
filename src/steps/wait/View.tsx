"use client";
import { Hourglass } from "lucide-react";
import { lengthInWords, type Length } from "@/core/calendar";
import { sleepsUntil } from "@/core/engine";
import { DATE, DATETIME } from "@/core/expression";
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
} from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import { MOST_AWAITED } from "./shape";

type Wait = StepOf<"wait">;
type Awaited = Wait["for"][number];

const A_DAY: Length = { amount: 1, unit: "working days" };
const kindOf = (a: Awaited) => ("length" in a && "length") || ("date" in a ? "date" : "moment");
const blank = (kind: string, id: string): Awaited => {
  if (kind === "length") return { id, length: A_DAY };
  return kind === "date" ? { id, date: "" } : { id, moment: "" };
};

function awaitedText(a: Awaited): string {
  if ("length" in a) return `for ${lengthInWords(a.length)}`;
  const formula = "date" in a ? a.date : a.moment;
  return `until ${formula || "?"}`;
}
const waitText = (s: Wait): string =>
  s.for.length === 0 ? "for nothing yet" : s.for.map(awaitedText).join(", or ");

/** What is waited for, the first of it that comes. */
function ForChip({ step, scope }: SentenceProps<"wait">) {
  const d = useDraft();
  const names = useNamesHere();
  const put = (next: Awaited[]) => d.edit({ op: "step.set", id: step.id, patch: { for: next } });
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
                onPick={(kind) => change(i, blank(kind, a.id))}
                options={[
                  { value: "length", label: "for a length" },
                  { value: "date", label: "until a date" },
                  { value: "moment", label: "until a date and time" },
                ]}
              />
              {"length" in a ? (
                <LengthInput
                  label={`Length ${i + 1}`}
                  value={a.length}
                  onChange={(length) => change(i, { id: a.id, length })}
                />
              ) : (
                <FormulaCell
                  label={`Until ${i + 1}`}
                  placeholder={"date" in a ? "e.g. a date of the form" : "e.g. now() + a length"}
                  value={"date" in a ? a.date : a.moment}
                  scope={scope}
                  wanted={"date" in a ? DATE : DATETIME}
                  names={names}
                  onCommit={(t) => change(i, "date" in a ? { id: a.id, date: t } : { id: a.id, moment: t })}
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
                  blank(
                    "length",
                    newId(`${step.id}-for`, (id) => step.for.some((a) => a.id === id)),
                  ),
                ])
              }
            >
              {step.for.length === 0 ? "Wait for something" : "Or for something else, if that comes first"}
            </Button>
          )}
          <SampleWaits step={step} />
        </div>
      )}
    </Chip>
  );
}

/** Until when the chosen sample would sleep. */
function SampleWaits({ step }: { step: Wait }) {
  const d = useDraft();
  const settled = useSettled(step);
  const at = useSampleAt();
  if (!d.turn || !at || !settled) return null;
  const until = sleepsUntil(d.turn, at);
  const text =
    typeof until === "number"
      ? `For the sample, begun now: ${whenText(until, d.facts.calendar(d.definition.calendar).zone)}`
      : "For the sample it does not wait.";
  return (
    <p role="status" className="border-t border-line pt-2">
      {text}
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

export const view: StepView<"wait"> = { icon: Hourglass, Sentence };

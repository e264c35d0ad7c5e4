"use client";
import { ANY, type Scope } from "@/core/expression";
import { fieldType, flatFields } from "@/core/form";
import { placesOf, type Step, type StepOf } from "@/core/process";
import { classes } from "@/ui";
import { peopleOf } from "@/core/engine";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../draft/FormulaCell";
import { TemplateCell } from "../draft/TemplateCell";
import { TextCell } from "../draft/TextCell";
import { verbOf } from "./blankStep";
import { Chip } from "./Chip";
import { LimitChip } from "./LimitChip";
import { RuleEditor } from "./RuleEditor";
import { isEmptyRule, ruleText } from "./ruleText";
import { WhoChip } from "./WhoChip";
import { WriteChip } from "./WriteChip";

/** A step as a sentence, its changeable parts as chips. */
export function StepSentence({ step, scope }: { step: Step; scope: Scope }) {
  const d = useDraft();
  const put = (next: Step) => d.edit({ op: "step.put", step: next });
  const name = (
    <TextCell
      className="cell inline-block !w-auto max-w-full [field-sizing:content] !min-h-7 !px-0.5 !py-0 font-serif text-[1.04rem] font-semibold"
      aria-label="Name of the step"
      value={step.name}
      onCommit={(t) => put({ ...step, name: t.trim() || verbOf(step.kind) })}
      onKeyDown={(e) => e.stopPropagation()}
    />
  );
  switch (step.kind) {
    case "decide":
    case "complete":
      return (
        <>
          {name}
          <Joint />
          <WhoChip step={step} scope={scope} /> {step.kind === "decide" ? "answers" : "confirms"} within{" "}
          <LimitChip step={step} scope={scope} />
          {step.kind === "complete" && (
            <>
              , button <ButtonChip step={step} />
            </>
          )}
        </>
      );
    case "choose":
      return (
        <>
          {name}
          <Joint />
          the first way whose condition holds
        </>
      );
    case "together":
      return (
        <>
          {name}
          <Joint />
          {step.branches.length} branches at the same time, all are waited for
        </>
      );
    case "write":
      return (
        <>
          {name}
          <Joint />
          <WriteChip step={step} scope={scope} />
        </>
      );
    case "work out":
      return (
        <>
          {name}
          <Joint />
          <WorkOutChip step={step} scope={scope} />
        </>
      );
    case "tell":
      return (
        <>
          {name}
          <Joint />
          <TellWho step={step} scope={scope} /> <TellWhat step={step} scope={scope} />
        </>
      );
    case "jump":
      return (
        <>
          go on with <JumpChip step={step} />
        </>
      );
    case "finish":
      return (
        <>
          the request ends as <FinishChip step={step} />
        </>
      );
  }
}
const Joint = () => <span className="text-faint"> · </span>;

function ButtonChip({ step }: { step: StepOf<"complete"> }) {
  const d = useDraft();
  return (
    <Chip text={`“${step.button}”`} label="Button">
      {(close) => (
        <TextCell
          className="input"
          autoFocus
          aria-label="Words on the button"
          value={step.button}
          onCommit={(t) => void d.edit({ op: "step.put", step: { ...step, button: t.trim() || "Done" } })}
          onKeyDown={(e) => e.key === "Enter" && close()}
        />
      )}
    </Chip>
  );
}

function WorkOutChip({ step, scope }: { step: StepOf<"work out">; scope: Scope }) {
  const d = useDraft();
  const fields = flatFields(d.definition.fields).filter((f) => f.kind !== "lines");
  const put = (set: typeof step.set) => d.edit({ op: "step.put", step: { ...step, set } });
  const text =
    step.set
      .map((s) => `${fields.find((f) => f.id === s.field)?.name ?? "?"} = ${s.value || "?"}`)
      .join("; ") || "nothing yet";
  return (
    <Chip text={text} label="Values" empty={step.set.length === 0} width={460}>
      {() => (
        <div className="grid gap-1.5">
          {step.set.map((s, i) => {
            const field = fields.find((f) => f.id === s.field);
            return (
              <div key={i} className="grid grid-cols-[10rem_1fr_auto] items-center gap-1.5">
                <select
                  className="input"
                  aria-label={`Value ${i + 1}: field`}
                  value={s.field}
                  onChange={(e) =>
                    put(step.set.map((x, k) => (k === i ? { ...x, field: e.target.value } : x)))
                  }
                >
                  {fields.map((f) => (
                    <option key={f.id} value={f.id}>
                      {f.name}
                    </option>
                  ))}
                </select>
                <FormulaCell
                  label={`Value ${i + 1}`}
                  value={s.value}
                  scope={scope}
                  wanted={field ? fieldType(field, d.office.registers) : ANY}
                  names={d.turn?.names() ?? null}
                  onCommit={(value) => put(step.set.map((x, k) => (k === i ? { ...x, value } : x)))}
                />
                <button
                  type="button"
                  className="text-sm underline"
                  onClick={() => put(step.set.filter((_, k) => k !== i))}
                >
                  remove
                </button>
              </div>
            );
          })}
          <button
            type="button"
            className="justify-self-start text-sm underline"
            disabled={fields.length === 0}
            onClick={() => put([...step.set, { field: fields[0]!.id, value: "null" }])}
          >
            Set another value
          </button>
        </div>
      )}
    </Chip>
  );
}

function TellWho({ step, scope }: { step: StepOf<"tell">; scope: Scope }) {
  const d = useDraft();
  const found = d.turn
    ? peopleOf(d.turn, step.id, "who", step.who).map((p) => d.factsData.people[p]?.name ?? p)
    : null;
  return (
    <Chip
      text={ruleText(step.who, d.office.data)}
      label="Who is told"
      empty={isEmptyRule(step.who)}
      width={400}
    >
      {() => (
        <div className="grid gap-2">
          <RuleEditor
            id={`tell-${step.id}`}
            rule={step.who}
            scope={scope}
            onChange={(who) => void d.edit({ op: "step.put", step: { ...step, who } })}
          />
          {found && (
            <p className="text-sm">
              For the sample: <span className="font-medium">{found.join(", ") || "nobody"}</span>
            </p>
          )}
        </div>
      )}
    </Chip>
  );
}

function TellWhat({ step, scope }: { step: StepOf<"tell">; scope: Scope }) {
  const d = useDraft();
  const put = (patch: Partial<StepOf<"tell">>) =>
    void d.edit({ op: "step.put", step: { ...step, ...patch } });
  return (
    <Chip text={`“${step.subject}”`} label="Message" width={460}>
      {() => (
        <div className="grid gap-2">
          <span className="text-sm text-soft" aria-hidden>
            Subject
          </span>
          <TemplateCell
            label="Subject"
            value={step.subject}
            scope={scope}
            onCommit={(subject) => put({ subject })}
          />
          <span className="text-sm text-soft" aria-hidden>
            Text
          </span>
          <TemplateCell
            label="Text"
            lines={5}
            value={step.text}
            scope={scope}
            onCommit={(text) => put({ text })}
          />
        </div>
      )}
    </Chip>
  );
}

function JumpChip({ step }: { step: StepOf<"jump"> }) {
  const d = useDraft();
  const places = [...placesOf(d.definition).values()];
  const to = places.find((p) => p.step.id === step.to);
  return (
    <Chip text={to ? `${to.number} ${to.step.name}` : "no step yet"} label="Go on with" empty={!to}>
      {(close) => (
        <ul aria-label="Steps">
          {places
            .filter((p) => p.step.id !== step.id)
            .map((p) => (
              <li key={p.step.id}>
                <button
                  type="button"
                  className={classes(
                    "w-full rounded px-2 py-1 text-left hover:bg-slate-wash",
                    p.step.id === step.to && "font-medium",
                  )}
                  onClick={() => {
                    d.edit({ op: "step.put", step: { ...step, to: p.step.id } });
                    close();
                  }}
                >
                  {p.number} {p.step.name}
                </button>
              </li>
            ))}
        </ul>
      )}
    </Chip>
  );
}

function FinishChip({ step }: { step: StepOf<"finish"> }) {
  const d = useDraft();
  return (
    <Chip text={`“${step.result}”`} label="Result" empty={!step.result}>
      {(close) => (
        <div className="grid gap-2">
          <TextCell
            className="input"
            autoFocus
            aria-label="Result"
            value={step.result}
            onCommit={(t) => void d.edit({ op: "step.put", step: { ...step, result: t.trim() } })}
            onKeyDown={(e) => e.key === "Enter" && close()}
          />
          <ToneSelect
            value={step.tone}
            onChange={(tone) => void d.edit({ op: "step.put", step: { ...step, tone } })}
          />
        </div>
      )}
    </Chip>
  );
}

export function ToneSelect({
  value,
  onChange,
}: {
  value: "agree" | "refuse" | "plain";
  onChange(t: "agree" | "refuse" | "plain"): void;
}) {
  return (
    <select
      className="input"
      aria-label="What it means"
      value={value}
      onChange={(e) => onChange(e.target.value as "agree")}
    >
      <option value="agree">good for the requester</option>
      <option value="refuse">a refusal</option>
      <option value="plain">neither</option>
    </select>
  );
}

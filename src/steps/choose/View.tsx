"use client";
import { Split } from "lucide-react";
import { askedValue, conditionFor, waysFor, type AskedValue } from "@/core/conditions";
import type { Scope } from "@/core/expression";
import { flatFields, type Field } from "@/core/form";
import type { Edit, StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, ConditionHead, newId, StepName, TextCell, useDraft, WayOnChip } from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";

type Choose = StepOf<"choose">;

/** What ways may go by: what has one of a few values, or a text, also of what a step before comes to. */
interface Valued {
  name: string;
  options?: readonly string[] | undefined;
}
function valuedIn(fields: readonly Field[], scope: Scope): Valued[] {
  const own = flatFields(fields).filter((f) => f.kind === "choice" || f.kind === "text");
  const ofSteps = Object.entries(scope).flatMap(([step, t]) => {
    if (t.t !== "context" || t.what !== undefined) return [];
    return Object.entries(t.fields).flatMap(([entry, of]) =>
      of.t === "text" && of.options ? [{ name: `${step}.${entry}`, options: of.options }] : [],
    );
  });
  return [...own, ...ofSteps];
}

/** The name whose values ways ask for; null where they ask for several, or for anything else first. */
function byWhat(step: Choose, scope: SentenceProps<"choose">["scope"]): string | null {
  if (!step.byValue) return null;
  return step.ways.map((w) => askedValue(w.when, scope)?.name).find((n) => n !== undefined) ?? null;
}

/** Whether it goes by conditions, or by the value of one field. */
function ByChip({ step, scope }: SentenceProps<"choose">) {
  const d = useDraft();
  const by = byWhat(step, scope);
  const fields = valuedIn(d.definition.fields, scope);
  const goBy = (name: string) => {
    const field = fields.find((f) => f.name === name);
    if (!field) return;
    const { put, add } = waysFor(step.ways, name, field.options ?? [], scope);
    // Before the way for all others, which stays last.
    const last = step.ways.at(-1);
    const ids = new Set(step.ways.map((w) => w.id));
    let after = (last?.when === undefined ? step.ways.at(-2) : last)?.id ?? null;
    const edits: Edit[] = [
      { op: "step.set", id: step.id, patch: { byValue: true } },
      ...put.map(({ id, value }): Edit => {
        const patch = { name: value, when: conditionFor({ name, value }) };
        return { op: "list.set", step: step.id, list: id, patch };
      }),
      ...add.map((value): Edit => {
        const id = newId(value, (x) => ids.has(x));
        ids.add(id);
        const list = { id, name: value, when: conditionFor({ name, value }), steps: [] };
        const edit: Edit = { op: "list.add", step: step.id, after, list };
        after = list.id;
        return edit;
      }),
    ];
    d.edit({ op: "batch", edits });
  };
  return (
    <Chip
      text={by === null ? "the first way whose condition holds" : `by the value of ${by}`}
      label="Goes by"
    >
      {(close) => (
        <label className="grid gap-1 text-sm">
          <span className="text-soft">The way is chosen by</span>
          <Select
            value={by ?? ""}
            onPick={(name) => {
              if (name === "") d.edit({ op: "step.set", id: step.id, patch: { byValue: null } });
              else goBy(name);
              close();
            }}
            options={[
              { value: "", label: "conditions, the first that holds" },
              ...fields.map((f) => ({ value: f.name, label: `the value of ${f.name}` })),
            ]}
          />
          <span className="text-soft">
            By a value each of its choices gets a way of its own; ways with other conditions stay as they are.
          </span>
        </label>
      )}
    </Chip>
  );
}

function Sentence(p: SentenceProps<"choose">) {
  return (
    <>
      <StepName step={p.step} />
      <ByChip {...p} />
    </>
  );
}

/** The value a way is for. */
function ValueEditor({ step, list: way, asked, scope }: ListHeadProps<"choose"> & { asked: AskedValue }) {
  const d = useDraft();
  const put = (value: string) => {
    // A way that is called like its value goes on to be.
    const name = way.name === asked.value && value.trim() !== "" ? { name: value } : {};
    const patch = { ...name, when: conditionFor({ ...asked, value }) };
    return d.edit({ op: "list.set", step: step.id, list: way.id, patch });
  };
  const options = valuedIn(d.definition.fields, scope).find((f) => f.name === asked.name)?.options ?? [];
  const label = `${way.name}: value of ${asked.name}`;
  const known = options.includes(asked.value) ? options : [asked.value, ...options];
  return (
    <div className="grid gap-1 text-sm">
      <span className="text-soft">when {asked.name} is</span>
      {options.length > 0 ? (
        <Select
          aria-label={label}
          value={asked.value}
          onPick={put}
          options={known.map((value) => ({ value, label: value || "…" }))}
        />
      ) : (
        <TextCell className="input" aria-label={label} value={asked.value} onCommit={put} />
      )}
    </div>
  );
}

function ListHead(p: ListHeadProps<"choose">) {
  const { step, list: way, scope, last } = p;
  const asked = step.byValue ? askedValue(way.when, scope) : null;
  // A way called like its value says it already.
  const shown = asked && way.name !== asked.value ? `when it is “${asked.value}”` : "";
  return (
    <ConditionHead
      step={step.id}
      list={way}
      scope={scope}
      what="way"
      forOthers={last}
      placeholder="a condition"
      {...(asked ? { instead: { shown, editor: <ValueEditor {...p} asked={asked} /> } } : {})}
      tail={<WayOnChip step={step.id} list={way.id} steps={way.steps} />}
    />
  );
}

export const view: StepView<"choose"> = { icon: Split, Sentence, ListHead };

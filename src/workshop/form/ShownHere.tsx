"use client";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import {
  arrangedFields,
  isGroup,
  walkFields,
  type Field,
  type AnswersAt,
  type FormShows,
  type StepForm,
} from "@/core/form";
import { START } from "@/core/route";
import { Boxes, Button, Popover, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { TextCell } from "../parts";

const SHOWS: Record<FormShows, string> = {
  together: "everything below each other",
  pages: "by pages, in any order",
  guided: "guided: one page after the other",
};
const ANSWERS: Record<AnswersAt | "foot", string> = {
  foot: "always in sight, at the foot",
  top: "on top, before the form",
  end: "at the end, after all of the form",
};
const SHORT: Record<FormShows, string> = { together: "All at once", pages: "By pages", guided: "Guided" };

/** What of the form is shown at a start or a step, and how: the way through it, a heading of its own, its parts. */
export function ShownHere({ step }: { step: string }) {
  const d = useDraft();
  const form = d.definition.forms?.[step] ?? {};
  const usual: FormShows = step === START ? "pages" : "together";
  const set = (patch: { [K in keyof StepForm]?: StepForm[K] | null }) =>
    void d.edit({ op: "form.set", step, patch });
  const shows = form.shows ?? usual;
  const inPart = form.parts !== undefined || form.columns !== undefined;
  const says = `${SHORT[shows]}${inPart ? ", in part" : ""}…`;
  return (
    <Popover
      width={440}
      trigger={
        <Button small look="quiet" aria-label={`Shown here: ${says}`}>
          {says}
        </Button>
      }
    >
      <div className="grid gap-3 text-sm">
        <label className="grid gap-1">
          <span className="text-soft">The form is shown</span>
          <Select
            value={shows}
            onPick={(v) => set({ shows: v === usual ? null : (v as FormShows) })}
            options={Object.entries(SHOWS).map(([value, label]) => ({ value, label }))}
          />
        </label>
        <div className="grid gap-1">
          <span className="text-soft">Heading of its own</span>
          <TextCell
            className="input"
            aria-label="Heading of its own"
            maxLength={200}
            placeholder="none"
            value={form.heading ?? ""}
            onCommit={(t) => set({ heading: t.trim() || null })}
          />
        </div>
        <div className="grid gap-1">
          <span className="text-soft">Help below it</span>
          <TextCell
            className="input"
            aria-label="Help below it"
            maxLength={2000}
            placeholder="none"
            value={form.help ?? ""}
            onCommit={(t) => set({ help: t.trim() || null })}
          />
        </div>
        {step !== START && (
          <label className="grid gap-1">
            <span className="text-soft">The answers stand</span>
            <Select
              value={form.answers ?? "foot"}
              onPick={(v) => set({ answers: v === "foot" ? null : (v as AnswersAt) })}
              options={Object.entries(ANSWERS).map(([value, label]) => ({ value, label }))}
            />
          </label>
        )}
        <Parts fields={d.definition.fields} form={form} set={set} />
      </div>
    </Popover>
  );
}

interface Props {
  fields: readonly Field[];
  form: StepForm;
  set(patch: { [K in keyof StepForm]?: StepForm[K] | null }): void;
}

function Parts({ fields, form, set }: Props) {
  const named = new Map<string, string>();
  walkFields(fields, (f, parents) => {
    if (!parents.some((p) => !isGroup(p)))
      named.set(f.id, [...parents.slice(-1).map((p) => p.name), f.name].join(": "));
  });
  const parts = form.parts?.filter((id) => named.has(id));
  const put = (next: string[]) => set({ parts: next });
  const swap = (i: number, by: number) => {
    const next = [...parts!];
    [next[i], next[i + by]] = [next[i + by]!, next[i]!];
    put(next);
  };
  return (
    <fieldset className="grid gap-1.5">
      <legend className="mb-1 text-soft">What of it</legend>
      <label className="flex items-center gap-2">
        <input type="radio" name="parts" checked={!parts} onChange={() => set({ parts: null })} />
        the whole form, as access says
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name="parts" checked={!!parts} onChange={() => put(fields.map((f) => f.id))} />
        only these, in this order
      </label>
      {parts && (
        <>
          <ol className="grid gap-0.5">
            {parts.map((id, i) => (
              <li key={id} className="flex items-center gap-1">
                <span className="min-w-0 flex-1 truncate" title={named.get(id)}>
                  {named.get(id)}
                </span>
                <Button
                  small
                  look="quiet"
                  aria-label={`${named.get(id)} further up`}
                  disabled={i === 0}
                  onClick={() => swap(i, -1)}
                >
                  <ArrowUp size={14} aria-hidden />
                </Button>
                <Button
                  small
                  look="quiet"
                  aria-label={`${named.get(id)} further down`}
                  disabled={i === parts.length - 1}
                  onClick={() => swap(i, 1)}
                >
                  <ArrowDown size={14} aria-hidden />
                </Button>
                <Button
                  small
                  look="quiet"
                  aria-label={`Leave out ${named.get(id)}`}
                  onClick={() => put(parts.filter((p) => p !== id))}
                >
                  <X size={14} aria-hidden />
                </Button>
              </li>
            ))}
          </ol>
          {parts.length === 0 && <p className="text-brick">Nothing is shown here.</p>}
          <Select
            aria-label="Show also"
            value=""
            empty="Show also…"
            onPick={(id) => id && put([...parts, id])}
            options={[...named]
              .filter(([id]) => !parts.includes(id))
              .map(([value, label]) => ({ value, label }))}
          />
          <p className="text-soft">What is left out cannot be filled in here.</p>
        </>
      )}
      <Columns fields={fields} form={form} set={set} />
    </fieldset>
  );
}

/** Which columns of the line items are shown. */
function Columns({ fields, form, set }: Props) {
  const tables: Field[] = [];
  walkFields(arrangedFields(fields, { ...(form.parts ? { parts: form.parts } : {}) }), (f) => {
    if (f.kind === "lines" && (f.fields?.length ?? 0) > 1) tables.push(f);
  });
  const columns = form.columns ?? [];
  return tables.map((t) => {
    const own = (t.fields ?? []).map((c) => c.id);
    const named = columns.filter((id) => own.includes(id));
    return (
      <div key={t.id} className="mt-1 grid gap-1">
        <span className="text-soft">Columns of {t.name}</span>
        <Boxes
          label={`Columns of ${t.name}`}
          options={(t.fields ?? []).map((c) => ({ value: c.id, label: c.name }))}
          chosen={named.length > 0 ? named : own}
          onChoose={(next) => {
            const others = columns.filter((id) => !own.includes(id));
            // None is as good as all: a table without columns shows nothing anybody could read.
            const kept = next.length === 0 || next.length === own.length ? others : [...others, ...next];
            set({ columns: kept.length > 0 ? kept : null });
          }}
        />
      </div>
    );
  });
}

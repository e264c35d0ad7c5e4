"use client";
import { listOf, type Scope } from "@/core/expression";
import { fieldType, flatFields, isPicked, type Field } from "@/core/form";
import { accessAt, type Asks, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { FormulaCell } from "./FormulaCell";

interface Picked {
  field: Field;
  /** With its line items where it is a column. */
  name: string;
}

/** What is picked from a list at a step: fields and columns that are filled in there. */
function pickedAt(d: ProcessDefinition, step: string): Picked[] {
  const access = accessAt(d, step);
  const picks = (f: Field) => isPicked(KINDS.fields[f.kind]) && !f.worked && access(f.id) === "edit";
  return flatFields(d.fields).flatMap((f): Picked[] => {
    if (f.kind !== "lines") return picks(f) ? [{ field: f, name: f.name }] : [];
    if (access(f.id) !== "edit") return [];
    return flatFields(f.fields ?? [])
      .filter(picks)
      .map((c) => ({ field: c, name: `${c.name} of ${f.name}` }));
  });
}

const short = (text: string): string => (text.length > 32 ? `${text.slice(0, 31)}…` : text);

/** What whoever is asked can choose: all that the form says, or for some fields only what a formula comes to. */
export function OffersChip({ step, scope }: { step: { id: string } & Asks; scope: Scope }) {
  const d = useDraft();
  const offers = step.offers ?? [];
  const picked = pickedAt(d.definition, step.id);
  // What is not filled in here any more must be seen to be taken away.
  const lost = offers.filter((o) => !picked.some((p) => p.field.id === o.field));
  if (picked.length === 0 && lost.length === 0) return null;
  const of = (field: string) => offers.find((o) => o.field === field)?.of ?? "";
  const set = (field: string, text: string) => {
    const others = offers.filter((o) => o.field !== field);
    const next = text.trim() ? [...others, { field, of: text }] : others;
    const patch = { offers: next.length > 0 ? next : null } as Record<string, unknown>;
    d.edit({ op: "step.set", id: step.id, patch } as Parameters<typeof d.edit>[0]);
  };
  const said = picked.flatMap((p) => (of(p.field.id) ? [`${p.name} from ${short(of(p.field.id))}`] : []));
  const around = { registers: d.office.registers, kinds: KINDS };
  return (
    <>
      {", choosing "}
      <Chip
        text={said.join("; ") || (lost.length > 0 ? "something that is not here" : `any ${picked[0]!.name}`)}
        label="What can be chosen"
        width={560}
      >
        {() => (
          <div className="grid gap-1.5 text-sm">
            {picked.map((p) => (
              <div key={p.field.id} className="grid grid-cols-[11rem_minmax(0,1fr)] items-center gap-x-2">
                <span className="truncate" title={p.name}>
                  {p.name}
                </span>
                <FormulaCell
                  label={`What can be chosen as ${p.name}`}
                  placeholder="anything the form allows"
                  value={of(p.field.id)}
                  scope={scope}
                  wanted={listOf(fieldType(p.field, around))}
                  onCommit={(t) => set(p.field.id, t)}
                />
              </div>
            ))}
            {lost.map((o) => (
              <button
                key={o.field}
                type="button"
                className="justify-self-start text-brick underline"
                onClick={() => set(o.field, "")}
              >
                Take away what is offered in a field that is not filled in here
              </button>
            ))}
            <p className="text-soft">
              A list, e.g. what a step before it found. It is fixed when somebody is asked, and nothing else
              can be sent.
            </p>
          </div>
        )}
      </Chip>
    </>
  );
}

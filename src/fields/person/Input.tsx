import type { FactsData } from "@/core/form";
import { offeredBy, offeredIn, Picker, type Option } from "@/forms/parts";
import type { FieldView } from "../input";

const shown = (v: string, facts: FactsData) => facts.people[v]?.name ?? v;

const option = (id: string, facts: FactsData): Option => ({
  id,
  title: shown(id, facts),
  hint: facts.people[id]?.jobTitle ?? "",
});

function people(facts: FactsData, search: string): Option[] {
  const s = search.trim().toLowerCase();
  return Object.values(facts.people)
    .filter((p) => !p.service)
    .filter((p) => !s || [p.name, p.jobTitle, p.department].some((t) => t.toLowerCase().includes(s)))
    .slice(0, 30)
    .map((p) => option(p.id, facts));
}

export const view: FieldView = {
  Input: ({ field, id, label, value, context, invalid, compact, describedBy, onChange }) => (
    <Picker
      id={id}
      label={label}
      value={typeof value === "string" && value !== "" ? value : null}
      shown={typeof value === "string" && value !== "" ? shown(value, context.facts) : ""}
      invalid={invalid}
      {...(compact ? { compact } : {})}
      {...(describedBy ? { describedBy } : {})}
      options={offeredBy(context, field, id) ?? ((s) => people(context.facts, s))}
      onPick={(o) => onChange(o?.id ?? null)}
      {...offeredIn(context, field, (o) => option(o, context.facts))}
    />
  ),
  shown: (v, _, facts) => shown(v, facts),
  figures: false,
  grouped: false,
};

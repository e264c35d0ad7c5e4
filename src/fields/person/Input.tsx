import type { FactsData } from "@/core/form";
import { matches, MOST_SHOWN, NOTHING_OFFERED, Picker, type Option } from "@/forms/parts";
import type { FieldView } from "../input";

const shown = (v: string, facts: FactsData) => facts.people[v]?.name ?? v;

function people(facts: FactsData, search: string): Option[] {
  const s = search.trim().toLowerCase();
  return Object.values(facts.people)
    .filter((p) => !p.service)
    .filter((p) => !s || [p.name, p.jobTitle, p.department].some((t) => t.toLowerCase().includes(s)))
    .slice(0, 30)
    .map((p) => ({ id: p.id, title: p.name, hint: p.jobTitle }));
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
      {...(context.offers[field.id]?.length === 0 ? { none: NOTHING_OFFERED } : {})}
      options={(s) => {
        const offered = context.offers[field.id];
        if (!offered) return people(context.facts, s);
        const all = offered.map((o) => ({
          id: o,
          title: shown(o, context.facts),
          hint: context.facts.people[o]?.jobTitle ?? "",
        }));
        return all.filter((o) => matches(s, o.title)).slice(0, MOST_SHOWN);
      }}
      onPick={(o) => onChange(o?.id ?? null)}
    />
  ),
  shown: (v, _, facts) => shown(v, facts),
  figures: false,
  grouped: false,
};

"use client";
import { Picker } from "@/forms";
import { useDraft } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, id }: RuleEditorProps<"person">) {
  const { people } = useDraft().office.data;
  return (
    <Picker
      id={`${id}-person`}
      label="Person"
      value={rule.person || null}
      shown={people.find((p) => p.id === rule.person)?.name ?? rule.person}
      onPick={(o) => onChange({ by: "person", person: o?.id ?? "" })}
      options={(s) =>
        people
          .filter((p) => p.active && p.name.toLowerCase().includes(s.trim().toLowerCase()))
          .slice(0, 20)
          .map((p) => ({ id: p.id, title: p.name }))
      }
    />
  );
}

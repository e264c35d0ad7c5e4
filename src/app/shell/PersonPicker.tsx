"use client";
import { Picker } from "@/forms";

export interface Pickable {
  id: string;
  name: string;
  jobTitle?: string;
}
const SHOWN = 30;

/** Picks somebody by a part of their name or job; whoever stands in `but` is not offered. */
export function PersonPicker({
  id,
  label,
  people,
  value,
  placeholder,
  but = [],
  onPick,
}: {
  id: string;
  label: string;
  people: readonly Pickable[];
  /** Null where picking adds to a list. */
  value: string | null;
  placeholder: string;
  but?: readonly { id: string }[];
  onPick(person: Pickable | null): void;
}) {
  return (
    <Picker
      id={id}
      label={label}
      value={value}
      shown={people.find((p) => p.id === value)?.name ?? value ?? ""}
      placeholder={placeholder}
      onPick={(o) => onPick(o && (people.find((p) => p.id === o.id) ?? null))}
      options={(search) =>
        people
          .filter((p) => !but.some((b) => b.id === p.id))
          .filter((p) => `${p.name} ${p.jobTitle ?? ""}`.toLowerCase().includes(search.trim().toLowerCase()))
          .slice(0, SHOWN)
          .map((p) => ({ id: p.id, title: p.name, ...(p.jobTitle ? { hint: p.jobTitle } : {}) }))
      }
    />
  );
}

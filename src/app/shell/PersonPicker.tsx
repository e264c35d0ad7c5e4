"use client";
import { useState } from "react";
import { Picker, type Option } from "@/forms";
import { findPeopleAction } from "../actions/requests";

export interface Pickable {
  id: string;
  name: string;
  jobTitle?: string;
}
type Listed = Option & { person: Pickable };
const SHOWN = 30;

/**
 * Picks somebody by a part of their name or job; whoever stands in `but` is not offered. Without `people` they are looked
 * up as one types, among everybody else who works here.
 */
export function PersonPicker({
  id,
  label,
  people,
  also = [],
  value,
  placeholder,
  but = [],
  onPick,
}: {
  id: string;
  label: string;
  people?: readonly Pickable[];
  /** Offered besides those who are looked up, and known by name: oneself, whoever is chosen already. */
  also?: readonly Pickable[];
  /** Null where picking adds to a list. */
  value: string | null;
  placeholder: string;
  but?: readonly { id: string }[];
  onPick(person: Pickable | null): void;
}) {
  const [found, setFound] = useState<readonly Pickable[]>([]);
  const known = people ?? [...also, ...found];
  const like = (p: Pickable, search: string) =>
    `${p.name} ${p.jobTitle ?? ""}`.toLowerCase().includes(search.trim().toLowerCase());
  const fits = (search: string) => {
    const all = people;
    if (!all)
      return findPeopleAction(search).then((l) => {
        setFound((f) => [...f.filter((x) => x.id === value), ...l]);
        return [...also.filter((p) => like(p, search) && !l.some((x) => x.id === p.id)), ...l];
      });
    return all.filter((p) => like(p, search));
  };
  const offered = (list: readonly Pickable[]): Listed[] =>
    list
      .filter((p) => !but.some((b) => b.id === p.id))
      .slice(0, SHOWN)
      .map((p) => ({ id: p.id, title: p.name, person: p, ...(p.jobTitle ? { hint: p.jobTitle } : {}) }));
  return (
    <Picker<Listed>
      id={id}
      label={label}
      value={value}
      shown={known.find((p) => p.id === value)?.name ?? value ?? ""}
      placeholder={placeholder}
      onPick={(o) => onPick(o && o.person)}
      options={(search) => {
        const list = fits(search);
        return "then" in list ? list.then(offered) : offered(list);
      }}
    />
  );
}

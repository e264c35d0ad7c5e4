import type { Field } from "@/core/form";
import type { InputContext } from "./inputContext";
import type { Option } from "./Picker";

/** What a picker says where its step found nothing to offer. */
const NOTHING_OFFERED = "There is nothing to choose from here.";

/** Of what is offered so many are listed at a time; typing finds the others. */
const MOST_SHOWN = 50;

/**
 * What a picker shows where a step offers only some things in its field; null where anything can be picked.
 * @param option one of them, by its id
 */
export function offeredIn<O extends Option>(
  { offers }: Pick<InputContext, "offers">,
  field: Field,
  option: (id: string) => O,
): { options(search: string): O[]; none?: string } | null {
  const offered = offers[field.id];
  if (!offered) return null;
  const all = offered.map(option);
  const options = (search: string) => {
    const typed = search.trim().toLowerCase();
    return all.filter((o) => o.title.toLowerCase().includes(typed)).slice(0, MOST_SHOWN);
  };
  return { options, ...(all.length === 0 ? { none: NOTHING_OFFERED } : {}) };
}

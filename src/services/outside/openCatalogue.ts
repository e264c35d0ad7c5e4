import { defineView } from "../kernel/defineUseCase";
import { openOf } from "./visitor";

/** A form that people outside may fill in. */
export interface OpenEntry {
  key: string;
  name: string;
  purpose: string;
  letterhead: string;
}

/** The forms that are open to people outside, by name. */
export const openCatalogue = defineView(["ask from outside"], async (c): Promise<OpenEntry[]> => {
  const d = await c.directory();
  return d.offered.flatMap((o) => {
    const found = openOf(o.starts);
    if (!c.may({ action: "ask from outside", open: found !== null }) || !found) return [];
    return [{ key: o.process, name: o.name, purpose: o.purpose, letterhead: found.open.letterhead }];
  });
});

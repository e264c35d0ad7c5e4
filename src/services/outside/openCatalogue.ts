import { defineView } from "../kernel/defineUseCase";
import type { Listed } from "@/core/route";
import { openOf } from "./visitor";

/** A form that people outside may fill in. */
export interface OpenEntry {
  key: string;
  name: string;
  purpose: string;
  letterhead: string;
  listed: Listed | null;
}

/** The forms that are open to people outside, by name. */
export const openCatalogue = defineView(["ask from outside"], async (c): Promise<OpenEntry[]> => {
  const d = await c.directory();
  return d.offered.flatMap((o) => {
    const found = openOf(o.starts);
    if (!c.may({ action: "ask from outside", open: found !== null }) || !found) return [];
    const { process: key, name, purpose, listed } = o;
    return [{ key, name, purpose, listed, letterhead: found.open.letterhead }];
  });
});

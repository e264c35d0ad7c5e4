import { getPool } from "@/db";
import { loadDirectory } from "../kernel/directory";
import { defineView } from "../kernel/defineUseCase";

export interface FoundPerson {
  id: string;
  name: string;
  jobTitle: string;
}
/** Shown at once in a list one picks from. */
const SHOWN = 30;

/** Everybody else who works here with a text in their name or job, those whose name begins so first. */
export const findPeople = defineView(["use own"], async (c, text: string): Promise<FoundPerson[]> => {
  if (!c.may({ action: "use own", person: c.actor.id })) return [];
  const d = await loadDirectory(getPool());
  const words = text.trim().slice(0, 100).toLowerCase();
  const begin: FoundPerson[] = [];
  const hold: FoundPerson[] = [];
  for (const p of d.people.values()) {
    if (!p.active || p.id === c.actor.id) continue;
    const name = p.name.toLowerCase();
    const found = { id: p.id, name: p.name, jobTitle: p.job_title };
    if (name.startsWith(words) || name.includes(` ${words}`)) begin.push(found);
    else if (`${name} ${p.job_title.toLowerCase()}`.includes(words)) hold.push(found);
    if (begin.length >= SHOWN) break;
  }
  return [...begin, ...hold].slice(0, SHOWN);
});

import { getPool } from "@/db";
import { nowMs } from "../kernel/clock";
import { loadDirectory } from "../kernel/directory";

/** More than stand in a menu with any use. */
const MOST = 100;

/** People to pick from in the demo; those who can show something first. */
export async function peopleOfDemo(): Promise<
  { id: string; name: string; job: string; shows: string; site: string }[]
> {
  const d = await loadDirectory(getPool());
  return [...d.people.values()]
    .filter((p) => p.active)
    .map((p) => ({ id: p.id, name: p.name, job: p.job_title, shows: p.shows, site: p.site }))
    .sort((a, b) => Number(b.shows !== "") - Number(a.shows !== "") || a.name.localeCompare(b.name))
    .slice(0, MOST);
}
export const nowFor = (): Promise<number> => nowMs(getPool());

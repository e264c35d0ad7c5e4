import type { PersonInput } from "@/contracts";
import type { PersonRow } from "@/db";

/** People as the rules over them look at them. */
export type Staff = ReadonlyMap<string, PersonRow>;

/** The id of somebody new: made from the name, told apart by a number. */
export function idFor(name: string, taken: (id: string) => boolean): string {
  const base =
    name
      .toLowerCase()
      .normalize("NFKD")
      .replace(/[^a-z0-9 .-]/g, "")
      .trim()
      .replace(/[\s.-]+/g, ".")
      .replace(/^\.+|\.+$/g, "")
      // Accounts of programs begin so.
      .replace(/^service\./, "service-")
      .slice(0, 50) || "person";
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}.${n}`;
    if (!taken(id)) return id;
  }
}

/** Whether `person` would come to stand above themselves under this manager. */
export function goesInCircles(staff: Staff, person: string, manager: string | null): boolean {
  const seen = new Set<string>([person]);
  for (let at = manager; at !== null; at = staff.get(at)?.manager_id ?? null) {
    if (seen.has(at)) return true;
    seen.add(at);
  }
  return false;
}

/**
 * Who manages whom once somebody has left: whoever takes over manages their people and, where they stood below them at
 * whatever depth, takes their place; else their people go to their own manager.
 * @returns the new manager of everybody whose manager changes
 */
export function managersAfter(staff: Staff, leaver: string, to: string | null): Map<string, string | null> {
  const above = staff.get(leaver)?.manager_id ?? null;
  const out = new Map<string, string | null>();
  for (const p of staff.values()) if (p.manager_id === leaver) out.set(p.id, to ?? above);
  // Left where they were, they would come to manage somebody who manages them.
  if (to !== null && goesInCircles(staff, leaver, to)) out.set(to, above);
  return out;
}

/** What cannot be said of somebody, as a field and a sentence; null where all fits. `id` is null for somebody new. */
export function personMistake(
  input: PersonInput,
  id: string | null,
  staff: Staff,
  calendars: ReadonlyMap<string, unknown>,
): { path: keyof PersonInput; message: string } | null {
  const twin = [...staff.values()].find((p) => p.email === input.email && p.id !== id);
  if (twin)
    return {
      path: "email",
      message: `${input.email} is the address of ${twin.name} already${twin.active ? "" : ", whose account is closed; open that one again"}.`,
    };
  const { manager } = input;
  if (manager !== null && !staff.get(manager)?.active)
    return { path: "manager", message: `There is nobody here called "${manager}" to be the manager.` };
  if (id !== null && goesInCircles(staff, id, manager))
    return {
      path: "manager",
      message: `${staff.get(manager!)?.name ?? manager} stands below ${input.name} already; so they would manage each other.`,
    };
  if (input.calendar !== null && !calendars.has(input.calendar))
    return { path: "calendar", message: `There is no working calendar "${input.calendar}".` };
  return null;
}

/** Whether nobody could keep the office without this person. */
export const isLastWithRights = (staff: Staff, id: string): boolean =>
  staff.get(id)?.office_rights === true &&
  ![...staff.values()].some((p) => p.id !== id && p.active && p.office_rights);

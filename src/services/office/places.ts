import { getPool, inTransaction, officeEdits, registers } from "@/db";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { registersNaming, withDepartment } from "../registers/rights";
import { renameDutyPlace } from "./duties";
import { keeping } from "./keepPeople";

export type PlaceKind = "department" | "site";
export interface Place {
  name: string;
  people: number;
  duties: number;
}

function placesOf(d: Directory, kind: PlaceKind): Place[] {
  const people = new Map<string, number>();
  for (const p of d.people.values())
    if (p.active && p[kind] !== "") people.set(p[kind], (people.get(p[kind]) ?? 0) + 1);
  return [...people]
    .map(([name, n]) => ({ name, people: n, duties: d.duties.filter((h) => h.place === name).length }))
    .sort((a, b) => a.name.localeCompare(b.name));
}

/** Departments and sites, as they stand with people. */
export const placesPage = defineView(
  ["see office", "keep people"],
  async (c): Promise<{ departments: Place[]; sites: Place[]; keeps: boolean }> => {
    if (!c.may({ action: "see office" })) return { departments: [], sites: [], keeps: false };
    const d = await loadDirectory(getPool());
    return {
      departments: placesOf(d, "department"),
      sites: placesOf(d, "site"),
      keeps: c.may({ action: "keep people" }),
    };
  },
);

/**
 * Calls a department or a site otherwise, with all its people and the duties held for it; one of that name takes them
 * in. Formulas that name it are said, because they go on naming the old one.
 * @returns how many people, and the processes whose texts name the old one
 */
export const renamePlace = defineUseCase(
  ["keep people"],
  (c, kind: PlaceKind, from: string, to: string): Promise<{ people: number; named: string[] }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "rename departments and sites");
      const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "Name", message } });
      const called = to.normalize("NFC").trim().replace(/\s+/g, " ");
      if (called === "" || called.length > 80)
        throw wrong("A name has 1 to 80 characters, for example: Registry.");
      if (called === from) throw wrong("That is its name already.");
      if (!placesOf(d, kind).some((p) => p.name === from))
        throw new Failed({ code: "not-found", data: { what: kind, id: from } });
      const people = await officeEdits.renamePlace(db, kind, from, called);
      await renameDutyPlace(db, d, c.actor, kind, from, called);
      if (kind === "department")
        for (const r of registersNaming(d, (a) => a.by === "department" && a.department === from)) {
          const rights = await registers.holdRights(db, r.key);
          if (rights) await registers.setRights(db, r.key, withDepartment(rights, from, called));
        }
      await noteEntry(c.actor, { what: "place renamed", data: { kind, from, to: called, people } }, db);
      return { people, named: await officeEdits.processesNaming(db, from) };
    }),
);

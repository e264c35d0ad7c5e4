import { getPool, inTransaction, officeEdits, people } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { planImport, type ImportPlan } from "./importPeople";
import { columnsOf, keeping } from "./keepPeople";

export interface ImportPreview extends ImportPlan {
  /** The directory it was held against: what is brought in is what was looked at. */
  version: string;
}

function plan(d: Directory, csv: string, zone: string): ImportPreview {
  const p = planImport(csv, d.people, d.calendars, zone);
  if ("mistake" in p) throw new Failed({ code: "invalid", data: { path: "", message: p.mistake } });
  return { ...p, version: d.version };
}

/** What a sheet of people would change. Nothing is changed. */
export const previewPeople = defineUseCase(
  ["keep people"],
  async (c, csv: string): Promise<ImportPreview> => {
    c.must({ action: "keep people" }, { code: "not-allowed", data: { action: "bring in people" } });
    return plan(await loadDirectory(getPool()), csv, c.actor.zone);
  },
);

/**
 * Brings in the people of a sheet: all that can be, or nothing. Nobody's account is closed by being left out of it.
 * @param version of the preview; where the office changed since, it is to be looked at again
 */
export const bringPeople = defineUseCase(
  ["keep people"],
  (c, csv: string, version: string): Promise<{ added: number; changed: number }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "bring in people");
      if (d.version !== version)
        throw new Failed({
          code: "invalid",
          data: {
            path: "",
            message: "The office changed since this was worked out. Look at what will change once more.",
          },
        });
      const p = plan(d, csv, c.actor.zone);
      const blank = { office_rights: false, active: true, shows: "", password_hash: null };
      // A manager may come later in the sheet: first everybody, then who manages whom.
      for (const x of p.added)
        await people.insertPerson(db, { id: x.id, ...columnsOf(x.to), manager_id: null, ...blank });
      for (const x of p.changed) await officeEdits.updatePerson(db, x.id, columnsOf(x.to));
      for (const x of p.added)
        if (x.to.manager !== null) await officeEdits.updatePerson(db, x.id, { manager_id: x.to.manager });
      const data = { added: p.added.length, changed: p.changed.length };
      await noteEntry(c.actor, { what: "people brought in", data }, db);
      return data;
    }),
);

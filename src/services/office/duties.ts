import {
  at,
  bumpDuties,
  getPool,
  inTransaction,
  registers,
  ROLE_HOLDERS,
  type Client,
  type Db,
  type RecordRow,
} from "@/db";
import type { RegisterShape } from "@/core/form";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keeping, someone } from "./keepPeople";

export interface Duty {
  record: string;
  duty: string;
  /** A site or a department; null for everywhere. */
  place: string | null;
  /** What else the record says, for telling apart those that read the same. */
  more: string;
}

/** Who holds which duty stands in a register of its own, where processes may write it too. */
function rolesOf(d: Directory): RegisterShape {
  const shape = registerOf(d, ROLE_HOLDERS);
  if (!shape) throw new Error("there is no register of role holders");
  return shape;
}
/** What a duty is made of; a register may hold more. */
const OWN = new Set(["id", "duty", "person", "site", "department"]);
const MOST = 5000;

export async function dutiesOf(d: Directory, person: string, db: Db = getPool()): Promise<Duty[]> {
  const rows = await registers.recordsWith(db, rolesOf(d), "person", person, MOST);
  return rows.map((r) => ({
    record: r.id,
    duty: String(r["duty"]),
    place: (r["site"] ?? r["department"] ?? null) as string | null,
    more: Object.entries(r)
      .filter(([k, v]) => !OWN.has(k) && typeof v === "string" && v !== "")
      .map(([, v]) => v)
      .join(", "),
  }));
}

async function remember(
  db: Client,
  by: string,
  record: string,
  did: "added" | "changed" | "removed",
  [before, after]: [RecordRow | null, RecordRow | null],
): Promise<void> {
  await registers.insertHistory(db, {
    register: ROLE_HOLDERS,
    record,
    at: at(await nowMs(db))!,
    by,
    request: null,
    did,
    before,
    after,
  });
  await bumpDuties(db);
}

/** Gives somebody a duty, for a site, a department or everywhere. */
export const addDuty = defineUseCase(
  ["keep people"],
  (
    c,
    person: string,
    duty: string,
    place: { site: string | null; department: string | null },
  ): Promise<null> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "give duties");
      const p = someone(d, person);
      const named = duty.normalize("NFC").trim().replace(/\s+/g, " ");
      const wrong = (path: string, message: string) =>
        new Failed({ code: "invalid", data: { path, message } });
      if (named === "" || named.length > 80)
        throw wrong("Duty", "Name the duty in 1 to 80 characters, for example: Key holder.");
      if (!p.active) throw wrong("Duty", `The account of ${p.name} is closed.`);
      if (place.site && place.department)
        throw wrong("For", "A duty is for a site or a department, not for both.");
      const shape = rolesOf(d);
      const sites = shape.columns.find((col) => col.id === "site")?.options;
      if (place.site && sites && !sites.includes(place.site))
        throw wrong("For", `"${place.site}" is no site of the register Role holders: ${sites.join(", ")}.`);
      const held = (await dutiesOf(d, person, db)).some(
        (x) => x.duty === named && x.place === (place.site ?? place.department ?? null),
      );
      if (held) throw wrong("Duty", `${p.name} holds that already.`);
      const row = await registers.insertRecord(db, shape, {
        duty: named,
        person,
        site: place.site,
        department: place.department,
      });
      await remember(db, c.actor.id, row.id, "added", [null, row]);
      await noteEntry(c.actor, { what: "duties changed", data: { person } }, db);
      return null;
    }),
);

export const removeDuty = defineUseCase(["keep people"], (c, record: string): Promise<null> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "take duties");
    const shape = rolesOf(d);
    const id = /^\d{1,18}$/.test(record) ? record : "0";
    const [row] = await registers.lockRecords(db, shape, [id]);
    if (!row) throw new Failed({ code: "not-found", data: { what: "duty", id: record } });
    await registers.deleteRecord(db, shape, id);
    await remember(db, c.actor.id, id, "removed", [row, null]);
    await noteEntry(c.actor, { what: "duties changed", data: { person: String(row["person"]) } }, db);
    return null;
  }),
);

/**
 * Duties held for a department or site are held for it under its new name.
 * @throws where the register's own list of sites has no such name
 */
export async function renameDutyPlace(
  db: Client,
  d: Directory,
  by: string,
  column: "site" | "department",
  from: string,
  to: string,
): Promise<void> {
  const shape = rolesOf(d);
  const held = await registers.recordsWith(db, shape, column, from, MOST);
  const options = shape.columns.find((col) => col.id === column)?.options;
  if (held.length > 0 && options && !options.includes(to))
    throw new Failed({
      code: "invalid",
      data: {
        path: "Name",
        message: `Duties are held for ${from}, and the register Role holders knows only ${options.join(", ")}. Choose one of these.`,
      },
    });
  for (const { id } of held) {
    const [row] = await registers.lockRecords(db, shape, [id]);
    if (!row) continue;
    const after = await registers.updateRecord(db, shape, id, { [column]: to });
    await remember(db, by, id, "changed", [row, after]);
  }
}

/** All of somebody's duties go to somebody else; those the other holds already end. */
export async function passDuties(
  db: Client,
  d: Directory,
  by: string,
  from: string,
  to: string | null,
): Promise<void> {
  const shape = rolesOf(d);
  const held = to === null ? [] : await dutiesOf(d, to, db);
  for (const x of await dutiesOf(d, from, db)) {
    const [row] = await registers.lockRecords(db, shape, [x.record]);
    if (!row) continue;
    if (to === null || held.some((h) => h.duty === x.duty && h.place === x.place)) {
      await registers.deleteRecord(db, shape, row.id);
      await remember(db, by, row.id, "removed", [row, null]);
    } else {
      const after = await registers.updateRecord(db, shape, row.id, { person: to });
      await remember(db, by, row.id, "changed", [row, after]);
    }
  }
}

import { getPool, inTransaction, registers, ROLE_HOLDERS, type Client, type Db } from "@/db";
import type { RegisterShape } from "@/core/form";
import type { RecordWrite } from "@/core/records";
import { writeRefusalSentence } from "@/core/words";
import type { Actor } from "../kernel/actor";
import { defineUseCase } from "../kernel/defineUseCase";
import { registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { handWriting } from "../registers/handWriting";
import { writeRecords } from "../registers/writeRecords";
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

/** Writes role holders as any other records; what their register's own rules refuse is said to whoever keeps people. */
async function write(
  db: Client,
  d: Directory,
  by: Actor,
  path: string,
  writes: readonly RecordWrite[],
): Promise<void> {
  for (const r of await writeRecords(await handWriting(db, d, by), ROLE_HOLDERS, writes))
    if (!r.ok) {
      const message = writeRefusalSentence(r.why, rolesOf(d), d.registers);
      throw new Failed({ code: "invalid", data: { path, message } });
    }
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
      const values = { duty: named, person, site: place.site, department: place.department };
      await write(db, d, c.actor, "Duty", [{ op: "add", values }]);
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
    await write(db, d, c.actor, "Duty", [{ op: "remove", id }]);
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
  by: Actor,
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
  const writes = held.map(({ id }): RecordWrite => ({ op: "change", id, values: { [column]: to } }));
  await write(db, d, by, "Name", writes);
}

/** All of somebody's duties go to somebody else; those the other holds already end. */
export async function passDuties(
  db: Client,
  d: Directory,
  by: Actor,
  from: string,
  to: string | null,
): Promise<void> {
  const held = to === null ? [] : await dutiesOf(d, to, db);
  const theirs = await dutiesOf(d, from, db);
  const holds = (x: Duty) => held.some((h) => h.duty === x.duty && h.place === x.place);
  const writes = theirs.map((x): RecordWrite =>
    to === null || holds(x)
      ? { op: "remove", id: x.record }
      : { op: "change", id: x.record, values: { person: to } },
  );
  await write(db, d, by, "Duty", writes);
}

import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { registerRights, registerShape, workingCalendar } from "@/contracts";
import { readProcess } from "@/formats";
import { at, getPool, inTransaction, migrate, people, registers, settings } from "@/db";
import { createProcess, editDraft, hashPassword, markDemo, releaseDraft, SYSTEM } from "@/services";
import { CALENDARS, GROUPS, PEOPLE } from "./people";
import { RIGHTS } from "./registers/rights";
import { SHAPES } from "./registers/shapes";
import { borrowerRows, objectRows, priceRows, roleRows, storeRows, ticketRows } from "./registers/rows";
import { bringIntoTreatment } from "./treatments";
import { putDemoChatRoom } from "./chatRoom";
import { putDemoMailboxes } from "./mailboxes";
import { putDemoOutlets } from "./outlets";
import { raisePrices } from "./prices";
import { keepForAll } from "./ladder";
import { demoTemplate } from "./templates";
import { runHistory, type HistoryReport } from "./history";

export const DEMO_PASSWORD = "quillhaven";
export const PROCESS_FILES = [
  "tell-and-close",
  "store-key",
  "supplies",
  "object-loan",
  "new-borrower",
  "shelf-audit",
  "take-into-treatment",
  "gallery-works",
  "check-due",
  "check-labels",
  "school-week",
  "note-done",
  "survey-costs",
  "school-visit",
  "acquisition-offers",
  "ticketing-terms",
] as const;
/** Where Post is unless the demo says otherwise. */
export const POST_PORTS = {
  smtp: Number(process.env["POST_SMTP"] ?? 3225),
  imap: Number(process.env["POST_IMAP"] ?? 3243),
};
const YEAR = 365 * 86_400_000;

export const readProcessFile = async (name: string) =>
  readProcess(JSON.parse(await readFile(join(process.cwd(), "demo/processes", `${name}.json`), "utf8")));

export interface SeedOptions {
  /** When history ends, in epoch milliseconds. */
  now: number;
  /** Sets the application's clock to `now`, so that tests take place on the same day whenever they are run. */
  clock?: boolean;
  /** Sites whose stores are left alone by the made-up requests. */
  spare?: readonly string[];
  /** About how many requests the past year saw; 0 for none. */
  requests: number;
  objects?: number;
  say?: (line: string) => void;
}

/** Fills an empty database with Quillhaven Museums: office, registers, processes and a year of requests. */
export async function seed(o: SeedOptions): Promise<HistoryReport | null> {
  const say = o.say ?? (() => undefined);
  await migrate(undefined, (name) => say(`applied ${name}`));
  const db = getPool();
  if ((await people.readPeople(db, null)).people.length > 0) return null;
  say("people, groups, calendars");
  const hash = await hashPassword(DEMO_PASSWORD);
  await inTransaction(async (tx) => {
    await markDemo(tx);
    for (const p of PEOPLE)
      await people.insertPerson(tx, {
        id: p.id,
        name: p.name,
        email: `${p.id}@quillhaven.example`,
        job_title: p.job,
        department: p.department,
        site: p.site,
        manager_id: p.manager,
        calendar_key: p.calendar ?? null,
        zone: p.zone ?? "Europe/Dublin",
        office_rights: p.office ?? false,
        active: true,
        shows: p.shows ?? "",
        password_hash: hash,
      });
    for (const g of GROUPS) await people.insertGroup(tx, g.key, g.name, g.members);
    for (const c of CALENDARS) await people.insertCalendar(tx, c.key, workingCalendar.parse(c));
    await people.insertAbsence(tx, {
      person: "patrick.iverson",
      starts: at(o.now - 2 * 86_400_000)!,
      ends: at(o.now + 5 * 86_400_000)!,
      cover: "rosalind.meath",
    });
  });
  say("registers");
  const rows: Record<string, Record<string, string | boolean | null>[]> = {
    objects: objectRows(o.now, o.objects),
    borrowers: borrowerRows(),
    stores: storeRows(),
    role_holders: roleRows(),
    price_list: priceRows(),
    tickets: ticketRows(),
  };
  await inTransaction(async (tx) => {
    for (const s of SHAPES) {
      const shape = registerShape.parse(s);
      await registers.createRegister(tx, shape, registerRights.parse(RIGHTS[shape.key]));
      await registers.insertRecords(tx, shape, rows[shape.key] ?? []);
    }
  });
  await db.query("analyze");
  await putDemoMailboxes(db, POST_PORTS);
  await putDemoChatRoom(db, o.now);
  await putDemoOutlets(db);
  say("processes");
  for (const name of PROCESS_FILES) {
    const definition = await readProcessFile(name);
    const made = await createProcess(SYSTEM, definition, o.now - YEAR);
    if (!made.ok) throw new Error(`${name}: ${JSON.stringify(made.failure)}`);
    const document = await demoTemplate(name);
    if (document) {
      const put = await editDraft(SYSTEM, name, 0, [{ op: "document.put", after: null, document }]);
      if (!put.ok) throw new Error(`${name}: ${JSON.stringify(put.failure)}`);
    }
    const released = await releaseDraft(SYSTEM, name, "1.0.0", "First release.", o.now - YEAR);
    if (!released.ok) throw new Error(`${name}: ${JSON.stringify(released.failure)}`);
    if (name === "object-loan") await keepForAll(db, definition, o.now - YEAR);
  }
  const report =
    o.requests > 0
      ? await runHistory({
          from: o.now - YEAR,
          until: o.now,
          requests: o.requests,
          spare: o.spare ?? [],
          say,
        })
      : null;
  // What came more than two days ago has been read.
  await db.query("update notice set read_at = created_at + interval '3 hours' where created_at < $1", [
    at(o.now - 2 * 86_400_000),
  ]);
  const offset = o.clock ? o.now - Date.now() : 0;
  await settings.writeSetting(db, "clock_offset", offset);
  if (o.requests > 0) {
    await bringIntoTreatment();
    await raisePrices();
  }
  await db.query("analyze");
  return report;
}

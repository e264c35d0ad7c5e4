import { registerShape, workingCalendar } from "@/contracts";
import { DEFAULT_CALENDAR } from "@/core/engine";
import { EVERYBODY, type RegisterShape } from "@/core/form";
import {
  getPool,
  inTransaction,
  officeEdits,
  people,
  registers,
  ROLE_HOLDERS,
  settings,
  type Client,
} from "@/db";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { sentenceOf } from "../kernel/sentence";
import { checkedPerson, columnsOf } from "./keepPeople";
import { newPasswordLink } from "./passwords";
import { idFor } from "./personRules";

/** Who holds which duty; an organisation's own from the first day on. */
const ROLES: RegisterShape = {
  format: "cobble-step/register@1",
  key: ROLE_HOLDERS,
  name: "Role holders",
  one: "role holder",
  purpose: "Which person holds which duty, for which site or department.",
  title: ["duty", "person"],
  columns: [
    { id: "duty", name: "Duty", kind: "text", needed: true },
    { id: "person", name: "Person", kind: "person", needed: true },
    { id: "site", name: "Site", kind: "text" },
    { id: "department", name: "Department", kind: "text" },
  ],
};
const OFFICE_HOURS = [["09:00", "17:00"]] as const;

async function whatEveryOfficeHas(db: Client, zone: string): Promise<void> {
  const d = await loadDirectory(db);
  if (!d.calendars.has(DEFAULT_CALENDAR)) {
    const week = Object.fromEntries(["1", "2", "3", "4", "5"].map((day) => [day, OFFICE_HOURS]));
    const calendar = { key: DEFAULT_CALENDAR, name: "Office hours", zone, week, holidays: [] };
    await officeEdits.putCalendar(db, DEFAULT_CALENDAR, workingCalendar.parse(calendar));
  }
  if (!Object.hasOwn(d.registers, ROLE_HOLDERS))
    // Who holds a duty is what everybody may know who is asked by it.
    await registers.createRegister(db, registerShape.parse(ROLES), EVERYBODY);
}

/**
 * Begins an office: its calendar, its register of duties, and the first person, who has the rights of the office. For
 * the command line of whoever runs the installation, who needs no rights here; refused once somebody has them.
 * @returns the token of the link by which they set their password, or a sentence
 */
export async function beginOffice(who: {
  name: string;
  email: string;
  zone: string;
}): Promise<{ ok: true; token: string } | { ok: false; sentence: string }> {
  try {
    const token = await inTransaction(async (db) => {
      await officeEdits.lockPeople(db);
      await whatEveryOfficeHas(db, who.zone);
      const d = await loadDirectory(db);
      const keeper = [...d.people.values()].find((p) => p.active && p.office_rights);
      if (keeper)
        throw new Failed({
          code: "invalid",
          data: {
            path: "",
            message: `${keeper.name} has the rights of the office already and can give them in Office. This command is for an installation where nobody has them.`,
          },
        });
      const blank = { jobTitle: "", department: "", site: "", manager: null, calendar: null };
      const known = [...d.people.values()].find((p) => p.email === who.email.trim().toLowerCase());
      const input = checkedPerson({ ...blank, ...who }, known?.id ?? null, d);
      const id = known?.id ?? idFor(input.name, (x) => d.people.has(x));
      if (known) await officeEdits.updatePerson(db, id, { active: true, office_rights: true });
      else
        await people.insertPerson(db, {
          id,
          ...columnsOf(input),
          office_rights: true,
          active: true,
          shows: "",
          password_hash: null,
        });
      return newPasswordLink(db, id);
    });
    return { ok: true, token };
  } catch (e) {
    if (e instanceof Failed) return { ok: false, sentence: await sentenceOf(e.failure) };
    throw e;
  }
}

const DEMO = "demo";
/** Notes that a database was filled by the demo, where everybody knows every password. */
export const markDemo = (db: Client): Promise<unknown> => settings.writeSetting(db, DEMO, true);
export const isDemoDatabase = async (): Promise<boolean> =>
  (await settings.readSetting<boolean>(getPool(), DEMO)) === true;

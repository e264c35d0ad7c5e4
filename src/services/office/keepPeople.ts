import { personInput, type PersonInput } from "@/contracts";
import { inTransaction, officeEdits, people, type Client, type PersonRow } from "@/db";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed, schemaFailure } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { idFor, isLastWithRights, personMistake } from "./personRules";

/** Names of what is said of somebody, as the page has them. */
export const PERSON_WORDS: Readonly<Record<keyof PersonInput, string>> = {
  name: "Name",
  email: "E-mail",
  jobTitle: "Job",
  department: "Department",
  site: "Site",
  manager: "Manager",
  calendar: "Working calendar",
  zone: "Time zone",
};

export const columnsOf = (p: PersonInput) => ({
  name: p.name,
  email: p.email,
  job_title: p.jobTitle,
  department: p.department,
  site: p.site,
  manager_id: p.manager,
  calendar_key: p.calendar,
  zone: p.zone,
});
export const inputOf = (p: PersonRow): PersonInput => ({
  name: p.name,
  email: p.email,
  jobTitle: p.job_title,
  department: p.department,
  site: p.site,
  manager: p.manager_id,
  calendar: p.calendar_key,
  zone: p.zone,
});

/** Whoever keeps people, lately shown to be they; all changes of people come one after another. */
export async function keeping(c: Call, db: Client, action: string): Promise<Directory> {
  c.must({ action: "keep people" }, { code: "not-allowed", data: { action } });
  mustHaveProved(c.actor);
  await officeEdits.lockPeople(db);
  return loadDirectory(db);
}

/** What was sent of somebody, right in itself and beside all others. @throws with the field and a sentence */
export function checkedPerson(sent: unknown, id: string | null, d: Directory): PersonInput {
  const parsed = personInput.safeParse(sent);
  if (!parsed.success) {
    const failure = schemaFailure(parsed.error);
    if (failure.code === "invalid") {
      const path = PERSON_WORDS[failure.data.path as keyof PersonInput] ?? failure.data.path;
      throw new Failed({ code: "invalid", data: { ...failure.data, path } });
    }
    throw new Failed(failure);
  }
  const wrong = personMistake(parsed.data, id, d.people, d.calendars);
  if (wrong)
    throw new Failed({ code: "invalid", data: { path: PERSON_WORDS[wrong.path], message: wrong.message } });
  return parsed.data;
}

const blank = { office_rights: false, active: true, shows: "", password_hash: null };

/** Adds somebody; they sign in by a link made for them, or through the provider. */
export const addPerson = defineUseCase(["keep people"], (c, sent: unknown): Promise<{ id: string }> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "add people");
    const input = checkedPerson(sent, null, d);
    const id = idFor(input.name, (x) => d.people.has(x));
    await people.insertPerson(db, { id, ...columnsOf(input), ...blank });
    await noteEntry(c.actor, { what: "person added", data: { person: id } }, db);
    return { id };
  }),
);

export const someone = (d: Directory, id: string): PersonRow => {
  const p = d.people.get(id);
  if (!p) throw new Failed({ code: "not-found", data: { what: "person", id } });
  return p;
};

/** Changes what is said of somebody. */
export const changePerson = defineUseCase(
  ["keep people"],
  (c, id: string, sent: unknown): Promise<{ changed: string[] }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "change what is said of people");
      const before = inputOf(someone(d, id));
      const input = checkedPerson(sent, id, d);
      const changed = (Object.keys(PERSON_WORDS) as (keyof PersonInput)[]).filter(
        (k) => before[k] !== input[k],
      );
      if (changed.length === 0) return { changed: [] };
      await officeEdits.updatePerson(db, id, columnsOf(input));
      const what = changed.map((k) => PERSON_WORDS[k].toLowerCase());
      await noteEntry(c.actor, { what: "person changed", data: { person: id, what } }, db);
      return { changed: what };
    }),
);

/** Gives somebody the rights of the office, or takes them. Somebody always has them. */
export const setRights = defineUseCase(["keep people"], (c, id: string, rights: boolean): Promise<null> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "give or take rights");
    const p = someone(d, id);
    if (p.office_rights === rights) return null;
    if (rights && !p.active)
      throw new Failed({
        code: "invalid",
        data: { path: "", message: `The account of ${p.name} is closed.` },
      });
    if (!rights) mustNotBeLast(d, id);
    await officeEdits.updatePerson(db, id, { office_rights: rights });
    await noteEntry(c.actor, { what: rights ? "rights given" : "rights taken", data: { person: id } }, db);
    return null;
  }),
);

export function mustNotBeLast(d: Directory, id: string): void {
  if (isLastWithRights(d.people, id))
    throw new Failed({
      code: "invalid",
      data: {
        path: "",
        message: `${someone(d, id).name} is the last with the rights of the office; give them to somebody else first.`,
      },
    });
}

/** Opens the account of somebody again who had left. What they had went to others and stays there. */
export const openPerson = defineUseCase(["keep people"], (c, id: string): Promise<null> =>
  inTransaction(async (db) => {
    const d = await keeping(c, db, "open accounts");
    const p = someone(d, id);
    if (p.active) return null;
    await officeEdits.updatePerson(db, id, { active: true });
    await noteEntry(c.actor, { what: "person opened", data: { person: id } }, db);
    return null;
  }),
);

import {
  apiKeys,
  at,
  getPool,
  inTransaction,
  jobs,
  officeEdits,
  passwords,
  people,
  processes,
  sessions,
  type Client,
} from "@/db";
import { nowMs } from "../kernel/clock";
import { SYSTEM } from "../kernel/actor";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import type { Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { askOthers } from "../requests/askOthers";
import { putOwner } from "../workshop/owners";
import { passDuties } from "./duties";
import { keeping, mustNotBeLast, someone } from "./keepPeople";
import { managersAfter } from "./personRules";

/** So long whoever takes over is asked where a process still names who has left. */
const COVERED_DAYS = 366;
/** So many tasks are moved while one waits; more go on by themselves. */
const AT_ONCE = 200;

const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

/**
 * Closes the account of somebody who leaves and passes on all they have, in one action: open tasks, whom they manage,
 * their duties, covers, and processes nobody else owns. They are signed out, and their keys stop for good.
 * @param to who takes over; null where nobody does: then tasks go to whom each step's rules find, and duties end
 * @returns how many open tasks they had
 */
export const closePerson = defineUseCase(
  ["keep people"],
  async (c, id: string, to: string | null): Promise<{ tasks: number; waiting: boolean }> => {
    const tasks = await inTransaction(async (db) => {
      const d = await keeping(c, db, "close accounts");
      const p = someone(d, id);
      if (id === c.actor.id)
        throw wrong("Your own account is closed by somebody else with the rights of the office.");
      if (!p.active) throw wrong(`The account of ${p.name} is closed already.`);
      mustNotBeLast(d, id);
      if (to !== null && (to === id || !d.people.get(to)?.active))
        throw wrong("Whoever takes over must be somebody else who is here.");
      const open = await officeEdits.openTasksOf(db, id);
      const now = at(await nowMs(db))!;
      await passOn(c, db, d, id, to, now);
      await officeEdits.updatePerson(db, id, { active: false, office_rights: false });
      await sessions.endSessions(db, id, null);
      await apiKeys.revokeKeysOf(db, id, now);
      await passwords.dropLink(db, id);
      await noteEntry(c.actor, { what: "person closed", data: { person: id, moved: open.length } }, db);
      // Whatever happens to this process next, workers see to the tasks.
      await jobs.lookWhoIsThere(db);
      return open.length;
    });
    if (tasks > 0 && tasks <= AT_ONCE) await askOthers(SYSTEM);
    return { tasks, waiting: tasks > AT_ONCE };
  },
);

async function passOn(
  c: Call,
  db: Client,
  d: Directory,
  id: string,
  to: string | null,
  now: string,
): Promise<void> {
  for (const [person, manager] of managersAfter(d.people, id, to))
    await officeEdits.updatePerson(db, person, { manager_id: manager });
  await officeEdits.passCovers(db, id, to, now);
  await officeEdits.leaveGroups(db, id);
  await passDuties(db, d, c.actor, id, to);
  // Tasks are asked of the cover, as they are for somebody away: the engine moves them by the same rules.
  await officeEdits.endAbsences(db, id, now);
  if (to === null) return;
  const ends = at(Date.parse(now) + COVERED_DAYS * 86_400_000)!;
  await people.insertAbsence(db, { person: id, starts: now, ends, cover: to });
  for (const key of await officeEdits.processesOwned(db, id)) {
    const draft = await processes.draftOf(db, key, true);
    const owners = await processes.ownersOf(db, key);
    if (draft && owners.every((o) => o === id || !d.people.get(o)?.active))
      await putOwner(c, db, d, draft, owners, to);
  }
}

export interface OpenWork {
  tasks: officeEdits.OpenTaskRow[];
  requests: number;
  manages: string[];
  /** Processes they own, and whether somebody else who is here does too. */
  owns: { key: string; alone: boolean }[];
}
/** What somebody has that others must take when they leave. */
export async function openWorkOf(d: Directory, id: string): Promise<OpenWork> {
  const db = getPool();
  const keys = await officeEdits.processesOwned(db, id);
  const owns = [];
  for (const key of keys) {
    const others = (await processes.ownersOf(db, key)).filter((o) => o !== id && d.people.get(o)?.active);
    owns.push({ key, alone: others.length === 0 });
  }
  return {
    tasks: await officeEdits.openTasksOf(db, id),
    requests: await officeEdits.requestsUnderWay(db, id),
    manages: [...d.people.values()].filter((p) => p.manager_id === id && p.active).map((p) => p.name),
    owns,
  };
}

import type { ProcessDefinition } from "@/core/route";
import { inTransaction, getPool, processes } from "@/db";
import { mustHaveProved } from "../kernel/proof";
import { Failed } from "../kernel/failure";
import { defineUseCase } from "../kernel/defineUseCase";
import { noteEntry } from "../log/noteEntry";
import { noteOnProcess } from "./processLog";
import { mustDesign } from "./mustDesign";

const refused = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

/** Nobody can ask any more. Requests under way go on as they are. */
export const closeProcess = defineUseCase(["design"], (c, key: string): Promise<void> =>
  inTransaction(async (db) => {
    await mustDesign(c, db, key);
    if (!(await processes.liveRelease(db, key))) throw refused("Nothing of this process is live.");
    mustHaveProved(c.actor);
    await processes.setLive(db, key, null);
    await noteOnProcess(db, c.actor, key, { what: "closed", data: {} });
    await noteEntry(c.actor, { what: "process closed", data: { process: key } }, db);
  }),
);

/** Puts the newest release of a closed process to work again. */
export const openProcess = defineUseCase(["design"], (c, key: string): Promise<{ version: string }> =>
  inTransaction(async (db) => {
    await mustDesign(c, db, key);
    if (await processes.liveRelease(db, key)) throw refused("This process is open.");
    const last = (await processes.releasesOf(db, key))[0];
    if (!last) throw refused("This process was never released. Release its draft.");
    mustHaveProved(c.actor);
    const { version } = last;
    await processes.setLive(db, key, last.id);
    await noteOnProcess(db, c.actor, key, { what: "opened", data: { version } });
    await noteEntry(c.actor, { what: "process opened", data: { process: key, version } }, db);
    return { version };
  }),
);

/** Deletes a process that was never used, with its draft and releases. One that was used is closed instead. */
export const deleteProcess = defineUseCase(["design"], (c, key: string): Promise<void> =>
  inTransaction(async (db) => {
    await mustDesign(c, db, key);
    if (await processes.everUsed(db, key, true))
      throw refused(
        "This has been used: requests it was part of must stay readable, and what hands to it must find it. Close it instead.",
      );
    const name = (await processes.draftOf(db, key))?.definition.name ?? key;
    mustHaveProved(c.actor);
    await processes.deleteProcess(db, key);
    await noteEntry(c.actor, { what: "process deleted", data: { process: key, name } }, db);
  }),
);

/** What a release is, for bringing it back as a draft. */
export const releasedDefinition = defineUseCase(
  ["design"],
  async (c, key: string, release: string): Promise<ProcessDefinition> => {
    const db = getPool();
    await mustDesign(c, db, key);
    const row = await processes.releaseById(db, release);
    if (row?.process_key !== key)
      throw new Failed({ code: "not-found", data: { what: "release", id: release } });
    return row.definition;
  },
);

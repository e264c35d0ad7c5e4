import { followColumns, registersKnown, type ProcessDefinition } from "@/core/route";
import { problemsOf } from "@/core/problems";
import { editRefusalSentence } from "@/core/words";
import { getPool, inTransaction, processes, registers, type Client } from "@/db";
import { KINDS } from "@/kinds";
import { definitionNow } from "../kernel/definitionNow";
import { loadDirectory } from "../kernel/directory";
import { mustHaveProved } from "../kernel/proof";
import { Failed } from "../kernel/failure";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { noteEntry } from "../log/noteEntry";
import { noteOnProcess } from "./processLog";
import { mustDesign } from "./mustDesign";
import { against } from "./workshop";

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
    await registers.holdShapes(db, "to read");
    const gone = await goneSince(c, db, key, last.id);
    if (gone !== null)
      throw refused(
        `Release ${version} reads what has changed since it was put to work: ${gone} Release the draft.`,
      );
    await processes.setLive(db, key, last.id);
    await noteOnProcess(db, c.actor, key, { what: "opened", data: { version } });
    await noteEntry(c.actor, { what: "process opened", data: { process: key, version } }, db);
    return { version };
  }),
);

/** What has become of registers and the office while nothing of a release was in use, that keeps it from being so again. */
async function goneSince(c: Call, db: Client, key: string, id: string): Promise<string | null> {
  const d = await loadDirectory(db);
  const { released, names } = (await processes.releaseById(db, id))!;
  const { definition, unclear } = followColumns(
    released,
    registersKnown(d.registers, names),
    d.registers,
    KINDS,
  );
  if (unclear) return editRefusalSentence(unclear);
  const problems = problemsOf(definition, await against(db, d, c.actor, key));
  return problems.find((p) => p.severity === "error")?.message ?? null;
}

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
    return definitionNow(row, (await loadDirectory(db)).registers);
  },
);

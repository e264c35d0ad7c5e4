import type { ProcessDefinition } from "@/core/route";
import { sentDefinition } from "@/contracts";
import { at, inTransaction, processes } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { Failed, schemaFailure } from "../kernel/failure";
import { noteOnProcess } from "./processLog";
import { defineUseCase, type Call } from "../kernel/defineUseCase";

/** Makes a process with a draft of a whole definition. */
export const createProcess = defineUseCase(
  ["create process"],
  (c, definition: ProcessDefinition, when?: number): Promise<{ key: string }> => insert(c, definition, when),
);

/**
 * Makes an empty process of the caller's own.
 * @param prefix what request numbers start with
 */
export const beginProcess = defineUseCase(
  ["create process"],
  (c, name: string, prefix: string): Promise<{ key: string }> => {
    const called = name.trim();
    const code = prefix.trim().toUpperCase();
    if (!called) throw wrong("The process needs a name, for example: Parking permit.");
    if (!/^[A-Z][A-Z0-9]{1,7}$/.test(code))
      throw wrong(
        `Request numbers start with 2 to 8 capital letters or digits, for example LOAN; "${prefix}" does not.`,
      );
    return insert(c, {
      format: "cobble-step/process@2",
      key: keyFor(called),
      name: called,
      purpose: "",
      owners: [c.actor.id],
      numbering: { prefix: code, digits: 4 },
      title: "{Requester.name}",
      starts: [KINDS.starts.form.blank("form")],
      fields: [],
      access: {},
      route: [],
      samples: [],
    });
  },
);

const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

const keyFor = (name: string): string =>
  name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 50) || "process";

const insert = (c: Call, definition: ProcessDefinition, when?: number): Promise<{ key: string }> =>
  inTransaction(async (db) => {
    c.must(
      { action: "create process" },
      { code: "not-allowed", data: { action: "make a new process; ask someone with office rights" } },
    );
    const checked = sentDefinition.safeParse(definition);
    if (!checked.success) throw new Failed(schemaFailure(checked.error));
    if (await processes.draftOf(db, definition.key))
      throw new Failed({
        code: "invalid",
        data: { path: "key", message: `There is already a process with the key "${definition.key}".` },
      });
    const moment = at(when ?? (await nowMs(db)))!;
    await processes.insertProcess(db, definition.key, moment, definition.owners);
    await processes.insertDraft(db, definition.key, definition, moment, c.actor.id || null);
    const entry = { what: "made" as const, data: { owners: definition.owners } };
    await noteOnProcess(db, c.actor, definition.key, entry, when);
    return { key: definition.key };
  });

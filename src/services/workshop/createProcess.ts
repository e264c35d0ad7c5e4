import type { ProcessDefinition } from "@/core/route";
import { sentDefinition } from "@/contracts";
import { at, getPool, inTransaction, processes, templates } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { Failed, schemaFailure } from "../kernel/failure";
import { noteOnProcess } from "./processLog";
import { mustDesign } from "./mustDesign";
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
    const { called, code } = namedRightly(name, prefix);
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

/** Makes an empty procedure of the caller's own. */
export const beginProcedure = defineUseCase(
  ["create process"],
  (c, name: string): Promise<{ key: string }> => {
    const called = name.trim();
    if (!called) throw wrong("The procedure needs a name, for example: Tell and close.");
    return insert(c, {
      format: "cobble-step/process@2",
      key: keyFor(called),
      name: called,
      purpose: "",
      owners: [c.actor.id],
      // No request is ever made of it alone.
      numbering: { prefix: "", digits: 4 },
      title: "",
      starts: [],
      fields: [],
      access: {},
      route: [],
      samples: [],
      procedure: true,
    });
  },
);

/**
 * Makes a process of the caller's own like the draft of another that they may design.
 * @param prefix what request numbers start with
 */
export const copyProcess = defineUseCase(
  ["create process", "design"],
  async (c, from: string, name: string, prefix: string): Promise<{ key: string }> => {
    const db = getPool();
    await mustDesign(c, db, from);
    const row = await processes.draftOf(db, from);
    if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: from } });
    const { called, code } = row.definition.procedure
      ? { called: name.trim() || row.definition.name, code: "" }
      : namedRightly(name, prefix);
    const copy = {
      ...row.definition,
      key: keyFor(called),
      name: called,
      owners: [c.actor.id],
      numbering: { ...row.definition.numbering, prefix: code },
    };
    return insert(c, copy, undefined, from);
  },
);

/** @throws Failed with a sentence where one of them cannot be */
function namedRightly(name: string, prefix: string): { called: string; code: string } {
  const called = name.trim();
  const code = prefix.trim().toUpperCase();
  if (!called) throw wrong("The process needs a name, for example: Parking permit.");
  if (!/^[A-Z][A-Z0-9]{1,7}$/.test(code))
    throw wrong(
      `Request numbers start with 2 to 8 capital letters or digits, for example LOAN; "${prefix}" does not.`,
    );
  return { called, code };
}

const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

const keyFor = (name: string): string =>
  name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 50) || "process";

/** @param copyOf the process it is made like, of which it takes the templates along */
const insert = (
  c: Call,
  definition: ProcessDefinition,
  when?: number,
  copyOf?: string,
): Promise<{ key: string }> =>
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
    const { prefix } = definition.numbering;
    const other = prefix && (await processes.prefixesOf(db)).find((p) => p.prefix === prefix);
    if (other)
      throw wrong(
        `Requests of “${other.name}” are numbered ${prefix}-… already. Take other letters, for example ${prefix.slice(0, 7)}2.`,
      );
    const moment = at(when ?? (await nowMs(db)))!;
    await processes.insertProcess(db, definition.key, moment, definition.owners);
    await processes.insertDraft(db, definition.key, definition, moment, c.actor.id || null);
    if (copyOf !== undefined) await templates.copyTemplates(db, copyOf, definition.key);
    const entry = { what: "made" as const, data: { owners: definition.owners } };
    await noteOnProcess(db, c.actor, definition.key, entry, when);
    return { key: definition.key };
  });

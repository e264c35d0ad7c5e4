import { randomUUID } from "node:crypto";
import { fieldsOfRegister } from "@/core/records";
import {
  NO_PARTY,
  recordRights,
  recordTitle,
  type AccessOf,
  type RecordRights,
  type RegisterShape,
  type StoredRecord,
} from "@/core/form";
import { at, formDrafts, getPool, registers, type Db } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { Failed, type Failure } from "../kernel/failure";
import { onlooker, registersSeen, rightsOf } from "../kernel/registersSeen";
import { mustBeKept } from "../requests/draftSize";
import { factsReader } from "../requests/facts";
import { formPage, type FormPage } from "../requests/formPage";
import { recordProgramOf } from "./recordPrograms";

export const noRegister = (key: string): Failure => ({
  code: "not-found",
  data: { what: "register", id: key },
});

/** What somebody may do with the records of a register they see; nothing of one they do not. */
export function rightsToRecords(d: Directory, c: Pick<Call, "actor">, key: string): RecordRights {
  const whole = registerOf(d, key);
  const none = { add: false, change: false, remove: false, fill: [] };
  return whole ? recordRights(whole, rightsOf(d, key), onlooker(d, c.actor)) : none;
}

/** One record by the id that stands in an address, whatever that is. */
export async function recordOf(db: Db, shape: RegisterShape, id: string): Promise<StoredRecord> {
  const record = /^\d{1,18}$/.test(id) ? (await registers.recordsByIds(db, shape, [id]))[0] : undefined;
  if (!record) throw new Failed({ code: "not-found", data: { what: shape.one, id } });
  return record;
}

export interface RecordForm {
  source: FormPage;
  title: string;
  one: string;
  /** The register's. */
  name: string;
  /** The version the values are of; null of a new one. */
  version: string | null;
  /** What they had typed before and not kept, with what it was typed over. */
  draft: formDrafts.RecordDraft | null;
}
export const draftOf = (key: string, id: string | null): string => `${key}/${id ?? "new"}`;

/** A record as a form to be filled in. @param id null for a new one */
export const recordForm = defineUseCase(
  ["read register", "write records"],
  async (c, key: string, id: string | null): Promise<RecordForm> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const seen = registersSeen(d, c.actor);
    const shape = Object.hasOwn(seen, key) ? seen[key] : undefined;
    c.must({ action: "read register", seen: shape !== undefined }, noRegister(key));
    const program = recordProgramOf(d, key);
    if (!shape || !program) throw new Failed(noRegister(key));
    const may = rightsToRecords(d, c, key);
    const what = id === null ? `add a ${shape.one}` : `change this ${shape.one}`;
    c.must(
      { action: "write records", may: id === null ? may.add : may.change },
      { code: "not-allowed", data: { action: what } },
    );
    const record = id === null ? null : await recordOf(db, program.shape, id);
    const version = id === null ? null : (await registers.versionsOf(db, key, [id])).get(id)!;
    const access: AccessOf = (column) => {
      if (!shape.columns.some((x) => x.id === column)) return "hide";
      return may.fill.includes(column) ? "edit" : "see";
    };
    const fields = fieldsOfRegister(program.shape);
    const reach = { request: null, by: [c.actor.id], ofRecords: true } as const;
    const reader = factsReader(db, d, { fields }, reach);
    const { id: _, ...data } = record ?? { id: "" };
    const of = { form: program.form, prepared: program.prepared, definition: { fields } };
    const source = await formPage(reader, d, of, data, access, {
      requester: NO_PARTY,
      number: "",
      extra: new Map(),
      seen,
      at: await c.now(),
      zone: c.actor.zone,
    });
    const draft = await formDrafts.recordDraft(db, c.actor.id, draftOf(key, id));
    return {
      source,
      version,
      title: record ? recordTitle(shape, record) : "",
      one: shape.one,
      name: shape.name,
      draft,
    };
  },
);

/** Keeps what somebody types into a record until they keep it or throw it away. */
export const saveRecordDraft = defineUseCase(
  ["use own"],
  async (c, key: string, id: string | null, draft: formDrafts.RecordDraft): Promise<{ savedAt: number }> => {
    c.must(
      { action: "use own", person: c.actor.id },
      { code: "not-allowed", data: { action: "keep a draft" } },
    );
    mustBeKept(draft.typed);
    const db = getPool();
    const now = await nowMs(db);
    await formDrafts.saveRecordDraft(db, {
      id: randomUUID(),
      person: c.actor.id,
      of: draftOf(key, id),
      data: draft,
      at: at(now)!,
    });
    return { savedAt: now };
  },
);
export const dropRecordDraft = defineView(
  ["use own"],
  async (c, key: string, id: string | null): Promise<void> => {
    if (c.may({ action: "use own", person: c.actor.id }))
      await formDrafts.deleteRecordDraft(getPool(), c.actor.id, draftOf(key, id));
  },
);

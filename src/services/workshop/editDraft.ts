import { applyEdit, rebaseEdits, type Edit, type ProcessDefinition } from "@/core/route";
import { editRefusalSentence } from "@/core/words";
import { sentDefinition } from "@/contracts";
import { at, getPool, inTransaction, processes, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { viaText } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { loadDirectory, personName, type Directory } from "../kernel/directory";
import { Failed, schemaFailure } from "../kernel/failure";
import { defineUseCase } from "../kernel/defineUseCase";
import { mustDesign } from "./mustDesign";

/** Furthest behind a draft somebody may be and still have their edits put onto it. */
const MOST_BEHIND = 2000;

/** An edit somebody else made, as it was applied. */
export interface DraftEdit {
  version: number;
  edit: Edit;
  by: string | null;
}

const nobodyKnows = (key: string) => new Failed({ code: "not-found", data: { what: "process", id: key } });

/** What happened to a draft after a version, oldest first; null where that is too long ago to say. */
async function since(db: Db, d: Directory, key: string, version: number): Promise<DraftEdit[] | null> {
  const rows = await processes.editsSince(db, key, version, MOST_BEHIND + 1);
  if (rows.length > MOST_BEHIND) return null;
  return rows.map((r) => ({
    version: r.version,
    edit: r.edit,
    by: r.by_person && personName(d, r.by_person),
  }));
}

/**
 * The draft as it was before some of its edits: each has an inverse that takes it back to the letter. Null where an edit
 * is of a format that has been lifted since.
 */
async function before(
  db: Db,
  key: string,
  version: number,
  now: ProcessDefinition,
  registers: Directory["registers"],
): Promise<ProcessDefinition | null> {
  let definition = now;
  for (const { inverse } of (await processes.editsSince(db, key, version, MOST_BEHIND)).toReversed()) {
    const r = applyEdit(definition, inverse, { registers, kinds: KINDS });
    if (!r.ok) return null;
    definition = r.definition;
  }
  return definition;
}

export interface EditedDraft {
  version: number;
  savedAt: number;
  /** What others did since `base`, which these edits were put behind. */
  theirs: DraftEdit[];
}

/**
 * Applies edits to a draft, in the order they come to the server. `base` is the version they were made on: what others
 * did since is kept, and these edits are put behind it by ids (`rebaseEdits`).
 * Fails with `stale-draft` where both changed the same: nothing is decided for either of them.
 */
export const editDraft = defineUseCase(
  ["design"],
  (c, key: string, base: number, edits: readonly Edit[]): Promise<EditedDraft> =>
    inTransaction(async (db) => {
      await mustDesign(c, db, key);
      const row = await processes.draftOf(db, key, true);
      if (!row) throw nobodyKnows(key);
      const d = await loadDirectory(db);
      const around = { registers: d.registers, kinds: KINDS };
      let mine = edits;
      const theirs = row.version === base ? [] : await since(db, d, key, base);
      const stale = (what: string[]) =>
        new Failed({
          code: "stale-draft",
          data: { yours: base, now: row.version, by: row.changed_by, what },
        });
      if (theirs === null || row.version < base) throw stale([]);
      if (theirs.length > 0) {
        const was = await before(db, key, base, row.definition, d.registers);
        if (!was) throw stale([]);
        const r = rebaseEdits(
          was,
          theirs.map((t) => t.edit),
          edits,
          around,
        );
        if (r.clashes.length > 0 || r.refused.length > 0)
          throw stale([
            ...r.clashes.map((x) => x.says),
            ...r.refused.map((x) => editRefusalSentence(x.refusal)),
          ]);
        mine = r.edits;
      }
      let definition = row.definition;
      const done: { edit: Edit; inverse: Edit }[] = [];
      for (const edit of mine) {
        const r = applyEdit(definition, edit, around);
        if (!r.ok) throw new Failed({ code: "edit-refused", data: r.refusal });
        definition = r.definition;
        done.push({ edit, inverse: r.inverse });
      }
      // Edits by property know nothing of kinds: what comes of them is held against the schema.
      const checked = sentDefinition.safeParse(definition);
      if (!checked.success) throw new Failed(schemaFailure(checked.error));
      const now = await nowMs(db);
      const version = row.version + mine.length;
      await processes.saveDraft(db, {
        process: key,
        definition,
        version,
        at: at(now)!,
        by: c.actor.id,
        via: viaText(c.actor.via),
        edits: done,
      });
      return { version, savedAt: now, theirs };
    }),
);

/** What others did to a draft after a version, for whoever has it open; null where only opening it anew will do. */
export const draftSince = defineUseCase(
  ["design"],
  async (c, key: string, version: number): Promise<{ edits: DraftEdit[] | null }> => {
    const db = getPool();
    await mustDesign(c, db, key);
    return { edits: await since(db, await loadDirectory(db), key, version) };
  },
);

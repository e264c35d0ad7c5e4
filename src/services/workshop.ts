import {
  applyEdit,
  CheckCache,
  differences,
  nextVersion,
  problemsOf,
  type Difference,
  type Edit,
  type ProcessDefinition,
  type Problem,
} from "@/core/process";
import type { RegisterShape } from "@/core/form";
import { at, getPool, inTransaction, processes, type Db, type ProcessListRow } from "@/db";
import type { Actor } from "./actor";
import { nowMs } from "./clock";
import { loadDirectory, officeFacts, personName, type Directory } from "./directory";
import { factsData } from "./facts";
import { Failed, outcome, type Outcome } from "./failure";
import { can } from "./policy";
import type { FactsData } from "@/core/form";
import type { OfficeData } from "@/core/engine";

async function mayDesign(db: Db, actor: Actor, key: string): Promise<void> {
  const owner = (await processes.ownersOf(db, key)).includes(actor.id);
  if (!can(actor, { action: "design", owner }))
    throw new Failed({ code: "not-found", data: { what: "process", id: key } });
}

export async function workshopList(actor: Actor): Promise<(ProcessListRow & { owner_names: string[] })[]> {
  const db = getPool();
  const d = await loadDirectory(db);
  return (await processes.listProcesses(db))
    .filter((p) => can(actor, { action: "design", owner: p.owners.includes(actor.id) }))
    .map((p) => ({ ...p, owner_names: p.owners.map((o) => personName(d, o)) }));
}

/** All of the office that a draft is checked and tried against. */
export interface WorkshopOffice {
  data: OfficeData;
  departments: string[];
  registers: Record<string, RegisterShape>;
}
export interface DraftView {
  definition: ProcessDefinition;
  version: number;
  changedAt: number;
  changedBy: string | null;
  live: string | null;
  office: WorkshopOffice;
  /** Facts for the chosen samples: the records they point at. */
  facts: FactsData;
  now: number;
}

const officeOf = (d: Directory): WorkshopOffice => ({
  data: d.office,
  departments: [...new Set([...d.people.values()].map((p) => p.department))].filter(Boolean).sort(),
  registers: { ...d.registers },
});

export function draftView(actor: Actor, key: string): Promise<Outcome<DraftView>> {
  return outcome(async () => {
    const db = getPool();
    await mayDesign(db, actor, key);
    const row = await processes.draftOf(db, key);
    if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
    const d = await loadDirectory(db);
    const live = await processes.liveRelease(db, key);
    return {
      definition: row.definition,
      version: row.version,
      changedAt: row.changed_at,
      changedBy: row.changed_by ? personName(d, row.changed_by) : null,
      live: live?.version ?? null,
      office: officeOf(d),
      // What an owner added to try the form; nobody has sent it.
      facts: await factsData(
        db,
        d,
        row.definition,
        { request: null, by: row.definition.owners },
        ...row.definition.samples.map((s) => s.data),
      ),
      now: await nowMs(db),
    };
  });
}

/** Makes a process with a draft; the definition may be a whole file or a beginning. */
export function createProcess(
  actor: Actor | null,
  definition: ProcessDefinition,
  when?: number,
): Promise<Outcome<{ key: string }>> {
  return outcome(() =>
    inTransaction(async (db) => {
      // No actor: seeding, which runs before anybody could sign in.
      if (actor && !can(actor, { action: "create process" }))
        throw new Failed({
          code: "not-allowed",
          data: { action: "make a new process; ask someone with office rights" },
        });
      if (await processes.draftOf(db, definition.key))
        throw new Failed({
          code: "invalid",
          data: { path: "key", message: `There is already a process with the key "${definition.key}".` },
        });
      const moment = at(when ?? (await nowMs(db)))!;
      await processes.insertProcess(db, definition.key, moment, definition.owners);
      await processes.insertDraft(db, definition.key, definition, moment, actor?.id ?? null);
      return { key: definition.key };
    }),
  );
}

/**
 * Applies edits to a draft. `base` is the version the edits were made on; when somebody else was faster
 * the draft stays as it is.
 */
export function editDraft(
  actor: Actor,
  key: string,
  base: number,
  edits: readonly Edit[],
): Promise<Outcome<{ version: number; savedAt: number }>> {
  return outcome(() =>
    inTransaction(async (db) => {
      await mayDesign(db, actor, key);
      const row = await processes.draftOf(db, key, true);
      if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
      if (row.version !== base)
        throw new Failed({
          code: "stale-draft",
          data: { yours: base, now: row.version, by: row.changed_by },
        });
      const d = await loadDirectory(db);
      let definition = row.definition;
      const done: { edit: Edit; inverse: Edit }[] = [];
      for (const edit of edits) {
        const r = applyEdit(definition, edit, d.registers);
        if (!r.ok) throw new Failed({ code: "edit-refused", data: r.refusal });
        definition = r.definition;
        done.push({ edit, inverse: r.inverse });
      }
      const now = await nowMs(db);
      const version = base + edits.length;
      await processes.saveDraft(db, key, definition, version, at(now)!, actor.id, done);
      if (definition.owners !== row.definition.owners && definition.owners.length > 0)
        await processes.setOwners(db, key, definition.owners);
      return { version, savedAt: now };
    }),
  );
}

/** Replaces a whole draft by a file, as one edit that can be taken back. */
export function putDraft(
  actor: Actor,
  key: string,
  base: number,
  definition: ProcessDefinition,
): Promise<Outcome<{ version: number; savedAt: number }>> {
  return outcome(() =>
    inTransaction(async (db) => {
      await mayDesign(db, actor, key);
      const row = await processes.draftOf(db, key, true);
      if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
      if (row.version !== base)
        throw new Failed({
          code: "stale-draft",
          data: { yours: base, now: row.version, by: row.changed_by },
        });
      if (definition.key !== key)
        throw new Failed({
          code: "invalid",
          data: { path: "key", message: `The file is for "${definition.key}", not for "${key}".` },
        });
      const now = await nowMs(db);
      await processes.saveDraft(db, key, definition, base + 1, at(now)!, actor.id, [
        { edit: { whole: definition } as never, inverse: { whole: row.definition } as never },
      ]);
      if (definition.owners.length > 0) await processes.setOwners(db, key, definition.owners);
      return { version: base + 1, savedAt: now };
    }),
  );
}

export function draftProblems(actor: Actor, key: string): Promise<Outcome<Problem[]>> {
  return outcome(async () => {
    const db = getPool();
    await mayDesign(db, actor, key);
    const row = await processes.draftOf(db, key);
    if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
    const d = await loadDirectory(db);
    return problemsOf(row.definition, d.registers, officeFacts(d), new CheckCache());
  });
}

export interface ReleasePage {
  definition: ProcessDefinition;
  problems: Problem[];
  changes: Difference[];
  proposed: string;
  releases: {
    id: string;
    version: string;
    note: string;
    state: string;
    releasedAt: number;
    releasedBy: string | null;
  }[];
}
export function releasePage(actor: Actor, key: string): Promise<Outcome<ReleasePage>> {
  return outcome(async () => {
    const problems = await draftProblems(actor, key);
    if (!problems.ok) throw new Failed(problems.failure);
    const db = getPool();
    const d = await loadDirectory(db);
    const row = (await processes.draftOf(db, key))!;
    const live = await processes.liveRelease(db, key);
    const changes = live ? differences(live.definition, row.definition) : [];
    const releases = await processes.releasesOf(db, key);
    return {
      definition: row.definition,
      problems: problems.value,
      changes,
      proposed: nextVersion(live?.version ?? null, changes),
      releases: releases.map((r) => ({
        id: r.id,
        version: r.version,
        note: r.note,
        state: r.state,
        releasedAt: r.released_at,
        releasedBy: r.released_by ? personName(d, r.released_by) : null,
      })),
    };
  });
}

const asNumbers = (v: string): number[] | null => {
  const m = /^(\d{1,6})\.(\d{1,6})\.(\d{1,6})$/.exec(v.trim());
  return m ? m.slice(1).map(Number) : null;
};
const higher = (a: number[], b: number[]): boolean => {
  const i = a.findIndex((n, k) => n !== b[k]);
  return i >= 0 && a[i]! > b[i]!;
};

/** Fixes the draft as a numbered release and puts it live. Requests under way stay on theirs. */
export function releaseDraft(
  actor: Actor | null,
  key: string,
  version: string,
  note: string,
  when?: number,
): Promise<Outcome<{ id: string; version: string }>> {
  return outcome(() =>
    inTransaction(async (db) => {
      if (actor) await mayDesign(db, actor, key);
      const row = await processes.draftOf(db, key, true);
      if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
      const d = await loadDirectory(db);
      const errors = problemsOf(row.definition, d.registers, officeFacts(d)).filter(
        (p) => p.severity === "error",
      );
      if (errors.length > 0)
        throw new Failed({ code: "has-errors", data: { count: errors.length, first: errors[0]!.message } });
      const live = await processes.liveRelease(db, key);
      if (live && JSON.stringify(live.definition) === JSON.stringify(row.definition))
        throw new Failed({ code: "nothing-changed", data: {} });
      const numbers = asNumbers(version);
      const newest = (await processes.releasesOf(db, key))[0]?.version ?? null;
      const least = nextVersion(
        live?.version ?? null,
        live ? differences(live.definition, row.definition) : [],
      );
      if (!numbers || (newest && !higher(numbers, asNumbers(newest)!)))
        throw new Failed({ code: "bad-version", data: { version, least } });
      const id = await processes.insertRelease(db, {
        process: key,
        version: numbers.join("."),
        note: note.trim(),
        definition: row.definition,
        at: at(when ?? (await nowMs(db)))!,
        by: actor?.id ?? null,
      });
      return { id, version: numbers.join(".") };
    }),
  );
}

import type { OfficeData } from "@/core/engine";
import type { Letter } from "@/core/letter";
import { factsSeen, type FactsData, type RegisterShape } from "@/core/form";
import {
  type MailTaker,
  columnsRead,
  problemsOf,
  type CheckAgainst,
  type Problem,
  type Sight,
} from "@/core/problems";
import { portsOf, startKind, type LiveProcedure } from "@/core/kinds";
import {
  breaksCallers,
  differences,
  nextVersion,
  handsOver,
  letsBegin,
  proceduresCalled,
  columnNames,
  type Difference,
  type Ladder,
  type ProcessDefinition,
} from "@/core/route";
import {
  at,
  getPool,
  inTransaction,
  processes,
  registers,
  templates,
  type Db,
  type ProcessListRow,
  keptLadders,
  keptLetters,
  keptTemplates,
} from "@/db";
import { KINDS } from "@/kinds";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { noteOnProcess } from "./processLog";
import { nowMs } from "../kernel/clock";
import type { Actor } from "../kernel/actor";
import { registersSeen, rightsOf } from "../kernel/registersSeen";
import { loadDirectory, officeFacts, personName, type Directory } from "../kernel/directory";
import { definitionNow } from "../kernel/definitionNow";
import { Failed } from "../kernel/failure";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { factsReader } from "../requests/facts";
import { mustDesign } from "./mustDesign";
import { brokenBy, type Broken } from "./whereUsed";

/** What somebody who designs a process may see of registers. */
const sightOf = (d: Directory, actor: Actor, key: string): Sight => ({
  columns: Object.fromEntries(
    Object.values(registersSeen(d, actor)).map((r) => [r.key, r.columns.map((c) => c.id)]),
  ),
  closed: Object.values(d.registers)
    .filter((r) => d.hiddenReads.includes(`record ${r.key}.name`))
    .map((r) => r.key),
  withdrawn: Object.keys(d.registers).filter((r) => rightsOf(d, r).withdrawn.includes(key)),
});

/** Everything a draft is held against, as it is for whoever would release it. */
export const against = async (db: Db, d: Directory, actor: Actor, key: string): Promise<CheckAgainst> => ({
  kinds: KINDS,
  registers: d.registers,
  sight: sightOf(d, actor, key),
  office: officeFacts(d),
  prefixes: await otherPrefixes(db, key),
  mailTakers: mailTakers(d, key),
  procedures: Object.fromEntries((await proceduresLive(db, d)).map(({ definition: _, ...p }) => [p.key, p])),
});

/** A procedure, or a process others start, that is live, with what it is: for whoever tries what hands to it. */
export interface ProcedureAtHand extends LiveProcedure {
  /** Of the release. */
  id: string;
  /** Null where there are so many that a page does not carry them all. */
  definition: ProcessDefinition | null;
}

/** Letters of definitions of procedures that a page of the Workshop carries; those the draft comes to go first. */
const MOST_CARRIED = 400_000;
function carried(all: ProcedureAtHand[], draft: ProcessDefinition): ProcedureAtHand[] {
  const near = new Set<string>();
  const follow = (keys: readonly string[]) => {
    for (const key of keys) {
      if (near.has(key)) continue;
      near.add(key);
      follow(all.find((p) => p.key === key)?.handsTo ?? []);
    }
  };
  follow(proceduresCalled(draft, KINDS).map((c) => c.procedure));
  let left = MOST_CARRIED;
  const taken = new Set<string>();
  for (const p of [...all].sort((a, b) => Number(near.has(b.key)) - Number(near.has(a.key)))) {
    left -= JSON.stringify(p.definition).length;
    if (left >= 0 || near.has(p.key)) taken.add(p.key);
  }
  return all.map((p) => (taken.has(p.key) ? p : { ...p, definition: null }));
}

/** What is live of a process, as it reads now; null where nothing is. */
async function liveDefinition(db: Db, d: Directory, key: string) {
  const live = await processes.liveRelease(db, key);
  return live && { version: live.version, definition: definitionNow(live, d.registers) };
}

const proceduresLive = async (db: Db, d: Directory): Promise<ProcedureAtHand[]> =>
  (await processes.liveHandedTo(db))
    .map((r) => ({ ...r, definition: definitionNow(r, d.registers) }))
    .map(({ id, process_key: key, version, versions, definition }) => ({
      id,
      key,
      name: definition.name,
      version,
      versions,
      ...portsOf(definition.fields),
      handsTo: [...new Set(handsOver(definition, KINDS).map((x) => x.to))],
      ...(definition.procedure ? {} : { from: letsBegin(definition, KINDS) ?? [] }),
      // A request of its own is not followed by a sample.
      definition: definition.procedure ? definition : null,
    }));

/** What request numbers of all other processes start with, and what those are called. */
const otherPrefixes = async (db: Db, key: string): Promise<Record<string, string>> =>
  Object.fromEntries(
    (await processes.prefixesOf(db)).filter((p) => p.key !== key).map((p) => [p.prefix, p.name]),
  );

/** Starts of other processes that are live, by mail. */
const mailTakers = (d: Directory, key: string): MailTaker[] =>
  d.offered.flatMap(({ process, name, mailbox, starts }) =>
    process === key || mailbox === null
      ? []
      : starts.flatMap((s) => {
          const of = startKind(KINDS, s).ofMail?.(s);
          return of ? [{ mailbox, name, when: of.when }] : [];
        }),
  );

/** A process or procedure that somebody may design. */
export interface WorkshopRow extends ProcessListRow {
  owner_names: string[];
  /** Of a procedure, how many processes hand to it. */
  used_by: number;
}
export const workshopList = defineView(["design"], async (c): Promise<WorkshopRow[]> => {
  if (!c.may({ action: "design", owner: true })) return [];
  const db = getPool();
  const d = await loadDirectory(db);
  const rows = (await processes.listProcesses(db)).filter((p) =>
    c.may({ action: "design", owner: p.owners.includes(c.actor.id) }),
  );
  const used = await processes.handedTo(db);
  return rows.map((p) => ({
    ...p,
    owner_names: p.owners.map((o) => personName(d, o)),
    used_by: used[p.key] ?? 0,
  }));
});

/** All of the office that a draft is checked and tried against. */
export interface WorkshopOffice {
  data: OfficeData;
  departments: string[];
  registers: Record<string, RegisterShape>;
  /** What request numbers of other processes start with, by what those are called. */
  prefixes: Record<string, string>;
  /** What whoever designs it may see of registers. */
  sight: Sight;
  /** Starts of other processes that are live, by mail. */
  mailTakers: MailTaker[];
  /** Letters kept for all processes. */
  letters: { id: string; name: string; version: number; letter: Letter }[];
  /** The same of ladders. */
  ladders: { id: string; name: string; version: number; ladder: Ladder }[];
  /** The same of templates. */
  templates: Pick<keptTemplates.KeptTemplateRow, "id" | "name" | "version">[];
  /** All other processes and procedures, by name. */
  others: { key: string; name: string }[];
  /** Procedures that are live, and processes that are and let others start their requests. */
  procedures: ProcedureAtHand[];
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

const officeOf = async (
  db: Db,
  d: Directory,
  actor: Actor,
  key: string,
  draft: ProcessDefinition,
): Promise<WorkshopOffice> => ({
  data: d.office,
  departments: [...new Set([...d.people.values()].map((p) => p.department))].filter(Boolean).sort(),
  registers: { ...d.registers },
  sight: sightOf(d, actor, key),
  prefixes: await otherPrefixes(db, key),
  mailTakers: mailTakers(d, key),
  letters: (await keptLetters.all(db)).map(({ id, name, version, thing: letter }) => ({
    id,
    name,
    version,
    letter,
  })),
  ladders: (await keptLadders.all(db)).map(({ id, name, version, thing: ladder }) => ({
    id,
    name,
    version,
    ladder,
  })),
  templates: await keptTemplates.keptTemplateNames(db),
  others: (await processes.namesOf(db)).filter((p) => p.key !== key),
  procedures: carried(await proceduresLive(db, d), draft),
});

export const draftView = defineUseCase(["design"], async (c, key: string): Promise<DraftView> => {
  const db = getPool();
  await mustDesign(c, db, key);
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
    office: await officeOf(db, d, c.actor, key, row.definition),
    // What an owner added to try the form; nobody has sent it.
    facts: factsSeen(
      await factsReader(db, d, row.definition, { request: null, by: row.definition.owners }).load(
        [],
        ...row.definition.samples.map((s) => s.data),
      ),
      d.registers,
      registersSeen(d, c.actor),
    ),
    now: await nowMs(db),
  };
});

export const draftProblems = defineUseCase(["design"], async (c, key: string): Promise<Problem[]> => {
  const db = getPool();
  await mustDesign(c, db, key);
  const row = await processes.draftOf(db, key);
  if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
  const d = await loadDirectory(db);
  return problemsOf(row.definition, await against(db, d, c.actor, key));
});

export interface ReleasePage {
  definition: ProcessDefinition;
  problems: Problem[];
  changes: Difference[];
  proposed: string;
  /** Whether any request was ever made of it, or anything hands to it. */
  used: boolean;
  /** Of a procedure: what hands to it and could not any more, with the reasons. */
  breaks: Broken[];
  releases: {
    id: string;
    version: string;
    note: string;
    state: string;
    releasedAt: number;
    releasedBy: string | null;
  }[];
}
export const releasePage = defineUseCase(["design"], async (c, key: string): Promise<ReleasePage> => {
  const db = getPool();
  await mustDesign(c, db, key);
  const row = await processes.draftOf(db, key);
  if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
  const d = await loadDirectory(db);
  const live = await liveDefinition(db, d, key);
  const changes = live ? differences(live.definition, row.definition, KINDS) : [];
  const releases = await processes.releasesOf(db, key);
  return {
    definition: row.definition,
    problems: problemsOf(row.definition, await against(db, d, c.actor, key)),
    changes,
    proposed: nextVersion(
      live?.version ?? (await processes.releasesOf(db, key))[0]?.version ?? null,
      changes,
      live !== null && breaksCallers(live.definition, row.definition, KINDS),
    ),
    used: await processes.everUsed(db, key),
    breaks: await brokenBy(db, row.definition),
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

const asNumbers = (v: string): number[] | null => {
  const m = /^(\d{1,6})\.(\d{1,6})\.(\d{1,6})$/.exec(v.trim());
  return m ? m.slice(1).map(Number) : null;
};
const higher = (a: number[], b: number[]): boolean => {
  const i = a.findIndex((n, k) => n !== b[k]);
  return i >= 0 && a[i]! > b[i]!;
};

/** @throws Failed where the file of a template was never brought in: the definition came from elsewhere */
async function mustHaveTemplates(db: Db, { key, documents = [] }: ProcessDefinition): Promise<void> {
  const missing = await templates.templatesMissing(
    db,
    key,
    documents.map((x) => x.file.sha256),
  );
  const lost = documents.find((x) => missing.includes(x.file.sha256));
  if (lost)
    throw new Failed({
      code: "invalid",
      data: {
        path: "",
        message: `The file of the template “${lost.name}” is not here: it came with a definition from elsewhere. Bring the DOCX in again on Templates.`,
      },
    });
}

/** Fixes the draft as a numbered release and puts it live. Requests under way stay on theirs. */
export const releaseDraft = defineUseCase(
  ["design"],
  (c, key: string, version: string, note: string, when?: number): Promise<{ id: string; version: string }> =>
    inTransaction(async (db) => {
      await mustDesign(c, db, key);
      await registers.holdShapes(db, "to read");
      const row = await processes.draftOf(db, key, true);
      if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
      const d = await loadDirectory(db);
      const reads = columnsRead(row.definition, { kinds: KINDS, registers: d.registers });
      const errors = problemsOf(row.definition, await against(db, d, c.actor, key)).filter(
        (p) => p.severity === "error",
      );
      if (errors.length > 0)
        throw new Failed({ code: "has-errors", data: { count: errors.length, first: errors[0]!.message } });
      await mustHaveTemplates(db, row.definition);
      const live = await liveDefinition(db, d, key);
      const same = (a: ProcessDefinition, b: ProcessDefinition) =>
        JSON.stringify({ ...a, owners: [] }) === JSON.stringify({ ...b, owners: [] });
      if (live && same(live.definition, row.definition))
        throw new Failed({ code: "nothing-changed", data: {} });
      const numbers = asNumbers(version);
      const newest = (await processes.releasesOf(db, key))[0]?.version ?? null;
      const least = nextVersion(
        live?.version ?? null,
        live ? differences(live.definition, row.definition, KINDS) : [],
        live !== null && breaksCallers(live.definition, row.definition, KINDS),
      );
      if (!numbers || (newest && !higher(numbers, asNumbers(newest)!)))
        throw new Failed({ code: "bad-version", data: { version, least } });
      // Whoever finds an open window must not put a process of their own making live.
      if (c.actor.kind !== "system") mustHaveProved(c.actor);
      const id = await processes.insertRelease(db, {
        process: key,
        version: numbers.join("."),
        note: note.trim(),
        definition: row.definition,
        at: at(when ?? (await nowMs(db)))!,
        by: c.actor.id || null,
        reads,
        names: columnNames(Object.values(d.registers).filter((s) => Object.hasOwn(reads, s.key))),
      });
      const released = numbers.join(".");
      // What the demo's past is made of is nobody's deed of today.
      if (when === undefined)
        await noteEntry(c.actor, { what: "released", data: { process: key, version: released } }, db);
      await noteOnProcess(db, c.actor, key, { what: "released", data: { version: released } }, when);
      return { id, version: released };
    }),
);

import { applyEdit } from "@/core/route";
import { at, getPool, inTransaction, notices, owners as store, processes, type Client, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { viaText } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory, personName, type Directory } from "../kernel/directory";
import { Failed, type Failure } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { noteOnProcess, type ProcessLogEntry } from "./processLog";

const MOST_OWNERS = 20;

/**
 * Who may agree to other owners: those who are owners now and after, and here. Where nobody is both, the owners hand
 * the process over as a whole: then one of them must have proposed it, and one of the new ones agrees.
 */
export function mayAgree(
  now: readonly string[],
  proposed: readonly string[],
  by: string,
  here: (person: string) => boolean,
): readonly string[] {
  const stay = now.filter((o) => proposed.includes(o) && here(o));
  if (stay.length > 0) return stay;
  return now.includes(by) && here(by) ? proposed.filter(here) : [];
}

interface Named {
  id: string;
  name: string;
}
export interface OwnersView {
  owners: (Named & { here: boolean })[];
  proposal: {
    owners: Named[];
    by: string;
    note: string;
    at: number;
    /** Whose word is waited for. */
    waitsFor: Named[];
    mayAgree: boolean;
    mayDrop: boolean;
  } | null;
  may: { propose: boolean; name: boolean };
  log: { at: number; sentence: string; by: string | null; key: boolean }[];
}

const isHere = (d: Directory) => (id: string) => d.people.get(id)?.active === true;
const named = (d: Directory, id: string): Named => ({ id, name: personName(d, id) });

const missing = (process: string): Failure => ({ code: "not-found", data: { what: "process", id: process } });

/** Who owns a process, what is proposed, and what happened to it. */
export const ownersView = defineUseCase(
  ["design", "propose owners", "name owner"],
  async (c, process: string): Promise<OwnersView> => {
    const db = getPool();
    const now = await processes.ownersOf(db, process);
    const owner = now.includes(c.actor.id);
    c.must({ action: "design", owner }, missing(process));
    if (now.length === 0 && !(await processes.draftOf(db, process))) throw new Failed(missing(process));
    const d = await loadDirectory(db);
    const here = isHere(d);
    const p = await store.proposalOf(db, process);
    const waits = p ? mayAgree(now, p.owners, p.by, here) : [];
    return {
      owners: now.map((id) => ({ ...named(d, id), here: here(id) })),
      proposal: p && {
        owners: p.owners.map((id) => named(d, id)),
        by: personName(d, p.by),
        note: p.note,
        at: p.at,
        waitsFor: waits.map((id) => named(d, id)),
        mayAgree: waits.includes(c.actor.id),
        mayDrop: owner || p.by === c.actor.id || waits.includes(c.actor.id),
      },
      may: {
        propose: c.may({ action: "propose owners", owner }),
        name: c.may({ action: "name owner", left: now.some(here) }),
      },
      log: (await store.processLog(db, process, 100)).map((e) => ({
        at: e.at,
        sentence: logSentence({ what: e.what, data: e.data } as ProcessLogEntry, (id) => personName(d, id)),
        by: e.by_person && personName(d, e.by_person),
        key: e.via?.startsWith("key ") ?? false,
      })),
    };
  },
);

export interface ProposalForMe {
  process: string;
  name: string;
  by: string;
  note: string;
  owners: Named[];
}
/** Proposals of owners that wait for one's own word; who is to become an owner may not open the Workshop yet. */
export const proposalsForMe = defineView(["agree to owners"], async (c): Promise<ProposalForMe[]> => {
  const db = getPool();
  const d = await loadDirectory(db);
  const all = await store.allProposals(db);
  const mine = all.filter((p) => mayAgree(p.now, p.owners, p.by, isHere(d)).includes(c.actor.id));
  if (!c.may({ action: "agree to owners", remains: mine.length > 0 })) return [];
  return mine.map((p) => ({
    process: p.process,
    name: p.name,
    by: personName(d, p.by),
    note: p.note,
    owners: p.owners.map((id) => named(d, id)),
  }));
});

const list = (people: readonly string[], name: (id: string) => string): string =>
  people.length === 0 ? "nobody" : people.map(name).join(", ");
const because = (note: string) => (note ? ` “${note}”` : "");

function logSentence(e: ProcessLogEntry, name: (id: string) => string): string {
  switch (e.what) {
    case "made":
      return `Made, owned by ${list(e.data.owners, name)}.`;
    case "released":
      return `Released as ${e.data.version}.`;
    case "closed":
      return "Closed: nobody can ask any more.";
    case "opened":
      return `Opened again with ${e.data.version}.`;
    case "owners proposed":
      return `Proposed as owners: ${list(e.data.owners, name)}.${because(e.data.note)}`;
    case "owners changed": {
      const { before, after, proposedBy, note } = e.data;
      return `Owners changed from ${list(before, name)} to ${list(after, name)}, as ${name(proposedBy)} proposed.${because(note)}`;
    }
    case "proposal dropped":
      return `Dropped the proposal of ${list(e.data.owners, name)} as owners.`;
    case "owner named":
      return `Named ${name(e.data.person)} as owner, because none of its owners (${list(e.data.before, name)}) was here any more.`;
  }
}

/** The owners now, with the draft held so that nothing about them moves meanwhile. */
async function held(
  c: Call,
  db: Client,
  process: string,
): Promise<{ now: string[]; draft: processes.DraftRow }> {
  const draft = await processes.draftOf(db, process, true);
  if (!draft) throw new Failed(missing(process));
  const now = await processes.ownersOf(db, process);
  c.must({ action: "design", owner: now.includes(c.actor.id) }, missing(process));
  return { now, draft };
}

const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "Owners", message } });

function checkedOwners(d: Directory, now: readonly string[], wanted: readonly string[]): string[] {
  const owners = [...new Set(wanted)];
  if (owners.length === 0)
    throw wrong("A process needs at least one owner: somebody must be able to mend it.");
  if (owners.length > MOST_OWNERS)
    throw wrong(`A process has at most ${MOST_OWNERS} owners; these are ${owners.length}.`);
  const gone = owners.find((o) => !isHere(d)(o) && !now.includes(o));
  if (gone !== undefined) throw wrong(`${personName(d, gone)} is not here, so they cannot own a process.`);
  if (!owners.some(isHere(d))) throw wrong("None of these people is here any more; add somebody who is.");
  if (owners.length === now.length && owners.every((o) => now.includes(o)))
    throw wrong("These are its owners already; nothing would change.");
  return owners;
}

/**
 * Proposes other owners for a process. One who is an owner before and after may say so at once; from anybody else it
 * waits until such a one agrees.
 * @returns whether it holds already
 */
export const proposeOwners = defineUseCase(
  ["design", "propose owners"],
  (c, process: string, wanted: readonly string[], note: string): Promise<{ done: boolean }> =>
    inTransaction(async (db) => {
      const { now, draft } = await held(c, db, process);
      c.must(
        { action: "propose owners", owner: now.includes(c.actor.id) },
        { code: "not-allowed", data: { action: "propose owners of this process" } },
      );
      mustHaveProved(c.actor);
      const d = await loadDirectory(db);
      const owners = checkedOwners(d, now, wanted);
      const why = note.trim().slice(0, 500);
      const agree = mayAgree(now, owners, c.actor.id, isHere(d));
      if (agree.length === 0)
        throw wrong("At least one of the owners it has now must stay, or hand it over themselves.");
      if (now.includes(c.actor.id) && agree.includes(c.actor.id)) {
        await change(c, db, draft, now, { owners, by: c.actor.id, note: why });
        return { done: true };
      }
      const moment = await nowMs(db);
      await store.putProposal(db, process, { owners, by: c.actor.id, note: why, at: at(moment)! });
      await noteOnProcess(db, c.actor, process, { what: "owners proposed", data: { owners, note: why } });
      await noteEntry(c.actor, { what: "owners proposed", data: { process, owners } }, db);
      await tell(db, agree, `owners ${process} ${moment}`, moment, {
        subject: `Other owners are proposed for ${draft.definition.name}`,
        body: `${c.actor.name} proposes ${list(owners, (id) => personName(d, id))}. Agree or not under your name at the top right, or on its About sheet.`,
      });
      return { done: false };
    }),
);

/**
 * Agrees to the owners that were proposed, or drops the proposal.
 * @param proposed the owners as they stood on the page: somebody may have proposed others meanwhile
 */
export const answerProposal = defineUseCase(
  ["answer proposal", "agree to owners"],
  (c, process: string, proposed: readonly string[], agree: boolean): Promise<null> =>
    inTransaction(async (db) => {
      const draft = await processes.draftOf(db, process, true);
      const p = draft && (await store.proposalOf(db, process));
      const now = draft ? await processes.ownersOf(db, process) : [];
      const d = await loadDirectory(db);
      const may = p ? mayAgree(now, p.owners, p.by, isHere(d)) : [];
      const { id } = c.actor;
      const concerned = now.includes(id) || may.includes(id) || p?.by === id;
      // Who is to become an owner answers before they may design.
      c.must({ action: "answer proposal", concerned }, missing(process));
      if (!draft || !p || p.owners.join(" ") !== proposed.join(" "))
        throw wrong("This proposal was answered, dropped or replaced meanwhile. Look at the page again.");
      if (!agree) {
        await store.dropProposal(db, process);
        await noteOnProcess(db, c.actor, process, { what: "proposal dropped", data: { owners: p.owners } });
        return null;
      }
      c.must(
        { action: "agree to owners", remains: may.includes(c.actor.id) },
        {
          code: "not-allowed",
          data: { action: `agree to this; ${list(may, (id) => personName(d, id))} may` },
        },
      );
      mustHaveProved(c.actor);
      await change(c, db, draft, now, { owners: checkedOwners(d, now, p.owners), by: p.by, note: p.note });
      return null;
    }),
);

/** Names an owner for a process none of whose owners is here any more; for the office. */
export const nameOwner = defineUseCase(
  ["design", "name owner"],
  (c, process: string, person: string): Promise<null> =>
    inTransaction(async (db) => {
      const { now, draft } = await held(c, db, process);
      const d = await loadDirectory(db);
      c.must(
        { action: "name owner", left: now.some(isHere(d)) },
        {
          code: "not-allowed",
          data: { action: "name an owner while it has some who are here; propose one to them" },
        },
      );
      mustHaveProved(c.actor);
      await putOwner(c, db, d, draft, now, person);
      return null;
    }),
);

/** Names an owner where none is here any more. The caller has made sure of that, and of who may. */
export async function putOwner(
  c: Call,
  db: Client,
  d: Directory,
  draft: processes.DraftRow,
  before: string[],
  person: string,
): Promise<void> {
  const process = draft.process_key;
  if (!isHere(d)(person)) throw wrong(`${personName(d, person)} is not here, so they cannot own a process.`);
  await keepOwners(c, db, draft, [person]);
  await noteOnProcess(db, c.actor, process, { what: "owner named", data: { before, person } });
  await noteEntry(c.actor, { what: "owner named", data: { process, person } }, db);
  const moment = await nowMs(db);
  await tell(db, [person], `owners ${process} ${moment}`, moment, {
    subject: `You own ${draft.definition.name} now`,
    body: `${c.actor.name} named you, because none of its owners is here any more.`,
  });
}

async function change(
  c: Call,
  db: Client,
  draft: processes.DraftRow,
  before: string[],
  to: { owners: string[]; by: string; note: string },
): Promise<void> {
  const process = draft.process_key;
  const data = { before, after: to.owners, proposedBy: to.by };
  await keepOwners(c, db, draft, to.owners);
  await noteOnProcess(db, c.actor, process, { what: "owners changed", data: { ...data, note: to.note } });
  await noteEntry(c.actor, { what: "owners changed", data: { process, ...data } }, db);
  const moment = await nowMs(db);
  const told = (people: string[], subject: string) =>
    tell(
      db,
      people.filter((p) => p !== c.actor.id),
      `owners ${process} ${moment}`,
      moment,
      { subject, body: `${c.actor.name} agreed to it.${because(to.note)}` },
    );
  await told(
    to.owners.filter((o) => !before.includes(o)),
    `You own ${draft.definition.name} now`,
  );
  await told(
    before.filter((o) => !to.owners.includes(o)),
    `You no longer own ${draft.definition.name}`,
  );
}

/** Writes the owners: for the policy, and in the draft, where formulas and samples read them. */
async function keepOwners(c: Call, db: Client, draft: processes.DraftRow, owners: string[]): Promise<void> {
  const process = draft.process_key;
  await processes.setOwners(db, process, owners);
  await store.dropProposal(db, process);
  const edit = { op: "process.set" as const, patch: { owners } };
  const r = applyEdit(draft.definition, edit, { registers: {}, kinds: KINDS });
  if (!r.ok) throw new Error(`owners of ${process} could not be put into its draft`);
  await processes.saveDraft(db, {
    process,
    definition: r.definition,
    version: draft.version + 1,
    at: at(await nowMs(db))!,
    by: c.actor.id,
    via: viaText(c.actor.via),
    edits: [{ edit, inverse: r.inverse }],
  });
}

async function tell(
  db: Db,
  people: readonly string[],
  key: string,
  moment: number,
  n: { subject: string; body: string },
): Promise<void> {
  for (const person of people)
    await notices.insertNotice(db, { person, request: null, effectKey: key, ...n, at: at(moment)! });
}

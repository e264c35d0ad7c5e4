import { NEW_REQUEST, Turn } from "@/core/engine";
import type { FormData } from "@/core/form";
import { START } from "@/core/process";
import { at, formDrafts, getPool, processes, requests } from "@/db";
import type { RequestListRow } from "@/db";
import type { Actor } from "./actor";
import { clockOffset, nowMs } from "./clock";
import { loadDirectory } from "./directory";
import { engineFacts } from "./facts";
import { Failed, outcome, type Outcome } from "./failure";
import { formPage, type FormPage } from "./formPage";
import { can } from "./policy";
import { releaseFor } from "./releases";

export interface CatalogueEntry {
  key: string;
  name: string;
  purpose: string;
  version: string;
}

/** Processes a person may start, with the drafts of theirs that are not sent yet. */
export async function catalogue(actor: Actor): Promise<{
  entries: CatalogueEntry[];
  drafts: { id: string; process: string; name: string; changedAt: number }[];
}> {
  const db = getPool();
  const entries = (await processes.liveReleases(db))
    .filter((r) => can(actor, { action: "ask", starts: r.definition.starts, live: true }))
    .map((r) => ({
      key: r.process_key,
      name: r.definition.name,
      purpose: r.definition.purpose,
      version: r.version,
    }));
  const names = new Map(entries.map((e) => [e.key, e.name]));
  const drafts = (await formDrafts.startDraftsOf(db, actor.id)).flatMap((r) => {
    const name = names.get(r.process_key);
    return name ? [{ id: r.id, process: r.process_key, name, changedAt: r.changed_at }] : [];
  });
  return { entries, drafts };
}

export interface AskPage {
  process: { key: string; name: string; purpose: string; version: string };
  draftId: string;
  form: FormPage;
  restoredAt: number | null;
}

/** The empty form of a process, or a draft of it the person left. */
export function askPage(actor: Actor, processKey: string, draftId: string): Promise<Outcome<AskPage>> {
  return outcome(async () => {
    const db = getPool();
    const row = await processes.liveRelease(db, processKey);
    if (!row || !can(actor, { action: "ask", starts: row.definition.starts, live: true }))
      throw new Failed({ code: "not-found", data: { what: "process", id: processKey } });
    const d = await loadDirectory(db);
    const release = await releaseFor(db, d, row.id);
    const draft = await formDrafts.formDraft(db, draftId, actor.id);
    const now = await nowMs(db);
    const data = draft?.process_key === processKey ? draft.data : {};
    const blank = { ...NEW_REQUEST, requester: actor.id, startedAt: now };
    const turn = new Turn(
      release,
      blank,
      engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now, actor.zone),
      actor.id,
    );
    const form = await formPage(db, d, release, data, release.access(START), {
      files: { request: null, by: [actor.id] },
      requester: actor.id,
      number: "",
      extra: turn.extraNames(),
      at: now,
      zone: actor.zone,
    });
    return {
      process: {
        key: processKey,
        name: row.definition.name,
        purpose: row.definition.purpose,
        version: row.version,
      },
      draftId,
      // What was typed stays typed even where the form does not show it just now.
      form: { ...form, data: { ...form.data, ...data } },
      restoredAt: draft ? draft.changed_at : null,
    };
  });
}

export function saveAskDraft(
  actor: Actor,
  processKey: string,
  draftId: string,
  data: FormData,
): Promise<Outcome<{ savedAt: number }>> {
  return outcome(async () => {
    const db = getPool();
    const now = await nowMs(db);
    await formDrafts.saveStartDraft(db, {
      id: draftId,
      person: actor.id,
      process: processKey,
      data,
      at: at(now)!,
    });
    return { savedAt: now };
  });
}
export const dropAskDraft = async (actor: Actor, draftId: string): Promise<void> =>
  void (await formDrafts.deleteDraft(getPool(), draftId, actor.id));

/** Own requests, newest first. */
export async function myRequests(
  actor: Actor,
  offset: number,
  limit: number,
): Promise<{ rows: RequestListRow[]; total: number }> {
  const db = getPool();
  return requests.listRequests(db, {
    requester: actor.id,
    now: at(Date.now() + (await clockOffset(db)))!,
    limit,
    offset,
  });
}

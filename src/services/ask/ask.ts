import { NEW_REQUEST, NONE_READ, Turn } from "@/core/engine";
import type { FormData } from "@/core/form";
import { START } from "@/core/route";
import { at, formDrafts, getPool, processes } from "@/db";
import { partyOf } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { loadDirectory } from "../kernel/directory";
import { registersSeen } from "../kernel/registersSeen";
import { engineFacts, factsReader } from "../requests/facts";
import { Failed } from "../kernel/failure";
import { mustBeKept } from "../requests/draftSize";
import { formPage, type FormPage } from "../requests/formPage";
import { registersAtHand } from "../requests/registersAtHand";
import { releaseFor } from "../requests/releases";
import { defineUseCase, defineView } from "../kernel/defineUseCase";

export interface CatalogueEntry {
  key: string;
  name: string;
  purpose: string;
  version: string;
}

/** Processes a person may start, with the drafts of theirs that are not sent yet. */
export const catalogue = defineView(
  ["ask", "use own"],
  async (
    c,
  ): Promise<{
    entries: CatalogueEntry[];
    drafts: { id: string; process: string; name: string; changedAt: number }[];
  }> => {
    const entries = (await c.directory()).offered
      .filter((o) => c.may({ action: "ask", starts: o.starts, live: true }))
      .map(({ process, name, purpose, version }) => ({ key: process, name, purpose, version }));
    const names = new Map(entries.map((e) => [e.key, e.name]));
    const own = c.may({ action: "use own", person: c.actor.id });
    const drafts = (own ? await formDrafts.startDraftsOf(getPool(), c.actor.id) : []).flatMap((r) => {
      const name = names.get(r.process_key);
      return name ? [{ id: r.id, process: r.process_key, name, changedAt: r.changed_at }] : [];
    });
    return { entries, drafts };
  },
);

export interface AskPage {
  process: { key: string; name: string; purpose: string; version: string };
  draftId: string;
  form: FormPage & { before: FormData };
  restoredAt: number | null;
}

/** The empty form of a process, or a draft of it the person left. */
export const askPage = defineUseCase(
  ["ask"],
  async (c, processKey: string, draftId: string): Promise<AskPage> => {
    const db = getPool();
    const row = await processes.liveRelease(db, processKey);
    if (!row || !c.may({ action: "ask", starts: row.definition.starts, live: true }))
      throw new Failed({ code: "not-found", data: { what: "process", id: processKey } });
    const d = await loadDirectory(db);
    const release = await releaseFor(db, d, row.id);
    const draft = await formDrafts.formDraft(db, draftId, c.actor.id);
    const now = await nowMs(db);
    const data = draft?.process_key === processKey ? draft.data : {};
    const requester = partyOf(c.actor);
    const blank = { ...NEW_REQUEST, requester, startedAt: now };
    const turn = new Turn(
      release,
      blank,
      engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now, c.actor.zone),
      c.actor.id,
    );
    const shapes = registersAtHand(d, release, NONE_READ);
    const reader = factsReader(db, d, release.definition, { request: null, by: [c.actor.id] }, shapes);
    const form = await formPage(reader, d, release, data, release.access(START), {
      requester,
      number: "",
      extra: turn.extraNames(),
      before: {},
      at: now,
      zone: c.actor.zone,
      seen: registersSeen(d, c.actor),
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
      form: { ...form, before: {}, data: { ...form.data, ...data } },
      restoredAt: draft ? draft.changed_at : null,
    };
  },
);

/** Forms one person may have begun. */
const MOST_DRAFTS = 100;

export const saveAskDraft = defineUseCase(
  ["use own"],
  async (c, processKey: string, draftId: string, data: FormData): Promise<{ savedAt: number }> => {
    c.must(
      { action: "use own", person: c.actor.id },
      { code: "not-allowed", data: { action: "keep a draft" } },
    );
    const db = getPool();
    const now = await nowMs(db);
    mustBeKept(data);
    const draft = { id: draftId, person: c.actor.id, process: processKey, data, at: at(now)! };
    if (!(await formDrafts.saveStartDraft(db, draft, MOST_DRAFTS)))
      throw new Failed({
        code: "invalid",
        data: {
          path: "",
          message: `You have ${MOST_DRAFTS} forms begun and not sent, so no more are kept. Send or throw away one of them in Ask.`,
        },
      });
    return { savedAt: now };
  },
);
export const dropAskDraft = defineView(["use own"], async (c, draftId: string): Promise<void> => {
  if (c.may({ action: "use own", person: c.actor.id }))
    await formDrafts.deleteDraft(getPool(), draftId, c.actor.id);
});

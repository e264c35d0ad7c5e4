import { givenData, sentOf } from "@/core/engine";
import { mergeEdits, type AccessOf, type FormData } from "@/core/form";
import { START, type Listed } from "@/core/route";
import { afterStartInWords } from "@/core/words";
import { at, formDrafts, getPool } from "@/db";
import { nowMs } from "../kernel/clock";
import { Failed } from "../kernel/failure";
import { mustBeKept } from "../requests/draftSize";
import { formPage, type FormPage } from "../requests/formPage";
import { atStart } from "./atStart";
import { beginsWith, type ComesWith } from "./beginsWith";
import { isOffered, type Press } from "../requests/pressed";
import { defineUseCase, defineView } from "../kernel/defineUseCase";

export interface CatalogueEntry {
  key: string;
  name: string;
  purpose: string;
  version: string;
  listed: Listed | null;
}

/** Processes a person may start, with the drafts of theirs that are not sent yet. */
export const catalogue = defineView(
  ["ask", "press", "use own"],
  async (
    c,
  ): Promise<{
    entries: CatalogueEntry[];
    drafts: { id: string; process: string; name: string; press: Press | null; changedAt: number }[];
  }> => {
    const d = await c.directory();
    const entries = d.offered
      .filter((o) => c.may({ action: "ask", starts: o.starts, live: true }))
      .map(({ process, name, purpose, version, listed }) => ({
        key: process,
        name,
        purpose,
        version,
        listed,
      }));
    const asked = new Map(entries.map((e) => [e.key, e.name]));
    const pressed = (key: string, press: Press) =>
      d.offered.find((o) => o.process === key && isOffered(c, d, o.starts, press.start))?.name;
    const own = c.may({ action: "use own", person: c.actor.id });
    const drafts = (own ? await formDrafts.startDraftsOf(getPool(), c.actor.id) : []).flatMap((r) => {
      const name = r.pressed ? pressed(r.process_key, r.pressed) : asked.get(r.process_key);
      return name
        ? [{ id: r.id, process: r.process_key, name, press: r.pressed, changedAt: r.changed_at }]
        : [];
    });
    return { entries, drafts };
  },
);

export interface AskPage {
  process: { key: string; name: string; purpose: string; version: string };
  draftId: string;
  form: FormPage & { before: FormData };
  /** What was pressed on which record, where it was begun so. */
  press: { says: string; register: string; id: string; title: string } | null;
  restoredAt: number | null;
  /** What comes of it once it is sent, in words. */
  next: string;
  /** What of the link that led here could not be read. */
  said: string[];
  /** The request it is asked again like. */
  like: string | null;
  /** Whether its owner has something to say once it is sent. */
  saysAfter: boolean;
}

/** The empty form of a process, what a press on a record fills in of it, or a draft of it the person left. */
export const askPage = defineUseCase(
  ["ask", "press"],
  async (
    c,
    processKey: string,
    draftId: string,
    press: Press | null = null,
    comesWith: ComesWith = {},
  ): Promise<AskPage> => {
    const db = getPool();
    const at = await atStart(c, processKey, press);
    const { row, d, release, now, by, given, access, turn, reader, seen, requester } = at;
    const draft = await formDrafts.formDraft(db, draftId, c.actor.id);
    const kept = draft?.process_key === processKey ? draft : null;
    const held = givenData(release, given);
    const begun = kept
      ? { data: kept.data, said: [], like: null }
      : await beginsWith(
          db,
          d,
          release,
          { actor: c.actor, access, turn, reader, seen, held, at: now },
          comesWith,
        );
    const typed = begun.data;
    const data = given ? mergeEdits(release.definition.fields, held, typed, access) : typed;
    const form = await formPage(reader, d, release, data, access, {
      requester,
      number: "",
      extra: turn.extraNames(),
      before: {},
      layout: release.definition.forms?.[START],
      at: now,
      zone: c.actor.zone,
      seen,
    });
    return {
      process: {
        key: processKey,
        name: row.released.name,
        purpose: row.released.purpose,
        version: row.version,
      },
      draftId,
      // What was typed stays typed even where the form does not show it just now.
      next: afterStartInWords(release, release.definition.route[0]),
      form: { ...form, before: {}, data: { ...form.data, ...(given ? editable(typed, access) : data) } },
      press:
        by && given
          ? { says: by.press.says, register: by.press.register, id: press!.record, title: given.title }
          : null,
      restoredAt: kept ? kept.changed_at : null,
      said: begun.said,
      like: begun.like,
      saysAfter: press === null && sentOf(release, false) !== null,
    };
  },
);

/** What is typed where one may; what a press fills in is as it is now. */
const editable = (data: FormData, access: AccessOf): FormData =>
  Object.fromEntries(Object.entries(data).filter(([id]) => access(id) === "edit"));

/** Forms one person may have begun. */
const MOST_DRAFTS = 100;

export const saveAskDraft = defineUseCase(
  ["use own"],
  async (
    c,
    processKey: string,
    draftId: string,
    data: FormData,
    press: Press | null = null,
  ): Promise<{ savedAt: number }> => {
    c.must(
      { action: "use own", person: c.actor.id },
      { code: "not-allowed", data: { action: "keep a draft" } },
    );
    const db = getPool();
    const now = await nowMs(db);
    mustBeKept(data);
    const draft = {
      id: draftId,
      person: c.actor.id,
      process: processKey,
      data,
      pressed: press,
      at: at(now)!,
    };
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

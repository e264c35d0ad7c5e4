import { recordTitle, registerSeen, type Onlooker, type RegisterShape } from "@/core/form";
import { mentionsIn } from "@/core/words";
import { at, getPool, inTransaction, recordNotes, type RecordNoteRow } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory, personName, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registerFor, rightsOf } from "../kernel/registersSeen";
import { noRegister, recordOf } from "./recordForm";

const LONGEST = 4000;
const MOST_MENTIONED = 50;

/** A note as the page of its record shows it. */
export interface RecordNote extends Omit<RecordNoteRow, "mentioned"> {
  by_name: string | null;
  /** Names of those it mentions, as they are now. */
  mentioned: string[];
  mayRemove: boolean;
}
/** Notes a page shows, the newest first. */
const SHOWN = 100;

/** The notes on a record, for whoever sees it; that they do is the caller's to have asked. */
export async function notesOn(
  d: Directory,
  actor: string,
  keeps: boolean,
  register: string,
  record: string,
): Promise<RecordNote[]> {
  return (await recordNotes.recordNotesOf(getPool(), register, record, SHOWN)).map((n) => ({
    ...n,
    by_name: n.by_person && personName(d, n.by_person),
    mentioned: n.mentioned.map((id) => personName(d, id)),
    mayRemove: n.by_person === actor || keeps,
  }));
}

/** What came of a note: whom it told, and whom it mentions in vain. */
export interface NoteLeft {
  id: string;
  told: string[];
  /** People who do not see the record. */
  unseeing: string[];
  /** Names that several people have. */
  several: string[];
}

/**
 * Leaves a few words on a record. Whoever it mentions by @ and their name is told, with the way there, if they see the
 * record.
 * @returns fails with "invalid" for no words, or too many
 */
export const leaveNote = defineUseCase(
  ["note record"],
  (c, key: string, id: string, text: string): Promise<NoteLeft> =>
    inTransaction(async (db) => {
      const d = await loadDirectory(db);
      const shape = registerFor(d, c.actor, key);
      c.must({ action: "note record", seen: shape !== undefined }, noRegister(key));
      if (!shape) throw new Failed(noRegister(key));
      const body = text.trim();
      const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "Note", message } });
      if (body === "") throw wrong("Write a few words, for example: Frame is loose, see photo.");
      if (body.length > LONGEST)
        throw wrong(`A note has at most ${LONGEST} characters; this has ${body.length}.`);
      // What it is called for each of those told depends on what they see of it.
      const record = await recordOf(db, d.registers[key]!, id);
      const people = [...d.people.values()].filter((p) => p.active && p.id !== c.actor.id);
      const meant = mentionsIn(body, people);
      if (meant.people.length > MOST_MENTIONED)
        throw wrong(`A note mentions at most ${MOST_MENTIONED} people; this has ${meant.people.length}.`);
      const tells = meant.people.flatMap((person) => {
        const seen = seenBy(d, person, key);
        return seen ? [{ person, on: recordTitle(seen, record) }] : [];
      });
      const told = tells.map((t) => t.person);
      const now = at(await nowMs(db))!;
      const note = await recordNotes.addRecordNote(db, {
        register: key,
        record: id,
        by: c.actor.id,
        body,
        mentioned: told,
        at: now,
      });
      for (const { person, on } of tells) {
        const facts = { by: c.actor.id, on };
        await recordNotes.tellMentioned(db, {
          person,
          register: key,
          record: id,
          note,
          facts,
          body,
          at: now,
        });
      }
      const names = (ids: readonly string[]) => ids.map((p) => personName(d, p));
      return {
        id: note,
        told: names(told),
        unseeing: names(meant.people.filter((p) => !told.includes(p))),
        several: meant.several,
      };
    }),
);

/** A register as somebody else sees it; null where they do not. */
function seenBy(d: Directory, id: string, register: string): RegisterShape | null {
  const p = d.people.get(id)!;
  const groups = [...d.groups.values()].filter((g) => g.members.includes(id)).map((g) => g.key);
  const who: Onlooker = {
    id,
    department: p.department,
    groups,
    holds: (duty) => d.duties.some((h) => h.person === id && h.duty === duty),
  };
  return registerSeen(d.registers[register]!, rightsOf(d, register), who);
}

/** Takes a note away: one's own, or any by whoever looks after the register. */
export const removeNote = defineUseCase(["remove note"], (c, id: string): Promise<null> =>
  inTransaction(async (db) => {
    const missing = { code: "not-found", data: { what: "note", id } } as const;
    const note = /^\d{1,18}$/.test(id) ? await recordNotes.recordNote(db, id) : null;
    const d = await loadDirectory(db);
    const keeper = note !== null && rightsOf(d, note.register).keepers.includes(c.actor.id);
    const seen = note !== null && registerFor(d, c.actor, note.register) !== undefined;
    c.must({ action: "remove note", seen, own: note?.by_person === c.actor.id, keeper }, missing);
    await recordNotes.removeRecordNote(db, id, at(await nowMs(db))!);
    return null;
  }),
);

import type { Letter } from "@/core/letter";
import { getPool, inTransaction, keptLetters as kept, processes } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keptForAll, mustKeepNext, type KeptForAll } from "./keptForAll";
import { mustDesign } from "./mustDesign";

/** What is the process's alone is left out of what others take. */
const forOthers = ({ name, texts, closes, language }: Letter): Omit<Letter, "id"> => ({
  name,
  ...(closes ? { closes } : {}),
  ...(language ? { language } : {}),
  texts,
});

/**
 * Keeps a letter of a draft for all processes: as the next version of the one it was taken from, or as a new one. The next
 * version of what another process keeps is for the office.
 * @returns what the process's letter is of from now on
 */
export const keepLetter = defineUseCase(
  ["design", "keep people"],
  async (c, process: string, id: string): Promise<{ letter: string; version: number }> =>
    inTransaction(async (db) => {
      await mustDesign(c, db, process);
      const draft = await processes.draftOf(db, process);
      const letter = draft?.definition.letters?.find((l) => l.id === id);
      if (!letter) throw new Failed({ code: "not-found", data: { what: "letter", id } });
      const of = letter.from ? await kept.keptLetter(db, letter.from.letter) : null;
      mustKeepNext(c, process, of);
      const key = of?.id ?? crypto.randomUUID();
      const version = await kept.putKeptLetter(db, {
        id: key,
        name: letter.name,
        letter: { id, ...forOthers(letter) },
        process_key: of ? of.process_key : process,
        by_person: c.actor.kind === "system" ? null : c.actor.id,
        at: await nowMs(db),
      });
      await noteEntry(c.actor, { what: "letter kept", data: { letter: letter.name, process } }, db);
      return { letter: key, version };
    }),
);

/** Letters kept for all, and which processes have taken them. */
export const keptLetterList = defineUseCase(["keep people"], async (c): Promise<KeptForAll[]> => {
  c.must({ action: "keep people" }, { code: "not-allowed", data: { action: "see to letters that all use" } });
  const db = getPool();
  return keptForAll(db, await kept.keptLetters(db), await kept.keptLettersTaken(db));
});

/** Keeps a letter for all no more; processes that have taken it keep their own. */
export const removeKeptLetter = defineUseCase(["keep people"], async (c, id: string): Promise<null> =>
  inTransaction(async (db) => {
    c.must(
      { action: "keep people" },
      { code: "not-allowed", data: { action: "take letters away that all use" } },
    );
    const k = await kept.keptLetter(db, id);
    if (!k || !(await kept.removeKeptLetter(db, id)))
      throw new Failed({ code: "not-found", data: { what: "letter", id } });
    await noteEntry(c.actor, { what: "letter taken away", data: { letter: k.name } }, db);
    return null;
  }),
);

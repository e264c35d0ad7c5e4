import type { Letter } from "@/core/letter";
import type { Ladder, ProcessDefinition } from "@/core/route";
import { getPool, inTransaction, keptLadders, keptLetters, processes, type KeptThings } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import type { LogEntry } from "../log/logEntry";
import { noteEntry } from "../log/noteEntry";
import { keptForAll, mustKeepNext, type KeptForAll } from "./keptForAll";
import { mustDesign } from "./mustDesign";

/** A sort of thing that is kept for all processes alike. */
interface Sort<T extends { id: string; name: string }> {
  what: "letter" | "ladder";
  kept: KeptThings<T>;
  among(d: ProcessDefinition): readonly T[];
  /** What it was taken from. */
  from(thing: T): string | undefined;
  /** It without what is the process's alone. */
  forOthers(thing: T): T;
  noted(name: string, process: string): LogEntry;
  removed(name: string): LogEntry;
}

const LETTERS: Sort<Letter> = {
  what: "letter",
  kept: keptLetters,
  among: (d) => d.letters ?? [],
  from: (l) => l.from?.letter,
  forOthers: ({ id, name, texts, closes, language }) => ({
    id,
    name,
    ...(closes ? { closes } : {}),
    ...(language ? { language } : {}),
    texts,
  }),
  noted: (letter, process) => ({ what: "letter kept", data: { letter, process } }),
  removed: (letter) => ({ what: "letter taken away", data: { letter } }),
};

const LADDERS: Sort<Ladder> = {
  what: "ladder",
  kept: keptLadders,
  among: (d) => d.ladders ?? [],
  from: (l) => l.from?.ladder,
  forOthers: ({ id, name, rungs }) => ({ id, name, rungs }),
  noted: (ladder, process) => ({ what: "ladder kept", data: { ladder, process } }),
  removed: (ladder) => ({ what: "ladder taken away", data: { ladder } }),
};

/**
 * Keeps something of a draft for all processes: as the next version of what it was taken from, or as a new one. The next
 * version of what another process keeps is for the office.
 */
const keep = <T extends { id: string; name: string }>(
  c: Call,
  sort: Sort<T>,
  process: string,
  id: string,
): Promise<{ id: string; version: number }> =>
  inTransaction(async (db) => {
    await mustDesign(c, db, process);
    const draft = await processes.draftOf(db, process);
    const thing = draft && sort.among(draft.definition).find((x) => x.id === id);
    if (!thing) throw new Failed({ code: "not-found", data: { what: sort.what, id } });
    const from = sort.from(thing);
    const of = from === undefined ? null : await sort.kept.one(db, from);
    mustKeepNext(c, process, of);
    const key = of?.id ?? crypto.randomUUID();
    const version = await sort.kept.put(db, {
      id: key,
      name: thing.name,
      thing: sort.forOthers(thing),
      process_key: of ? of.process_key : process,
      by_person: c.actor.kind === "system" ? null : c.actor.id,
      at: await nowMs(db),
    });
    await noteEntry(c.actor, sort.noted(thing.name, process), db);
    return { id: key, version };
  });

/** What is kept for all, and which processes have taken it. */
async function listed<T extends { id: string; name: string }>(
  c: Call,
  { what, kept }: Sort<T>,
): Promise<KeptForAll[]> {
  c.must(
    { action: "keep people" },
    { code: "not-allowed", data: { action: `see to ${what}s that all use` } },
  );
  const db = getPool();
  return keptForAll(db, await kept.all(db), await kept.taken(db));
}

/** Keeps something for all no more; processes that have taken it keep their own. */
const remove = <T extends { id: string; name: string }>(c: Call, sort: Sort<T>, id: string): Promise<null> =>
  inTransaction(async (db) => {
    c.must(
      { action: "keep people" },
      { code: "not-allowed", data: { action: `take ${sort.what}s away that all use` } },
    );
    const k = await sort.kept.one(db, id);
    if (!k || !(await sort.kept.remove(db, id)))
      throw new Failed({ code: "not-found", data: { what: sort.what, id } });
    await noteEntry(c.actor, sort.removed(k.name), db);
    return null;
  });

/** @returns what the process's letter is of from now on */
export const keepLetter = defineUseCase(
  ["design", "keep people"],
  async (c, process: string, id: string): Promise<{ letter: string; version: number }> => {
    const { id: letter, version } = await keep(c, LETTERS, process, id);
    return { letter, version };
  },
);
export const keptLetterList = defineUseCase(["keep people"], (c) => listed(c, LETTERS));
export const removeKeptLetter = defineUseCase(["keep people"], (c, id: string) => remove(c, LETTERS, id));

/** @returns what the process's ladder is of from now on */
export const keepLadder = defineUseCase(
  ["design", "keep people"],
  async (c, process: string, id: string): Promise<{ ladder: string; version: number }> => {
    const { id: ladder, version } = await keep(c, LADDERS, process, id);
    return { ladder, version };
  },
);
export const keptLadderList = defineUseCase(["keep people"], (c) => listed(c, LADDERS));
export const removeKeptLadder = defineUseCase(["keep people"], (c, id: string) => remove(c, LADDERS, id));

import { NEW_REQUEST, NONE_READ, startAccess, Turn, type CompiledRelease, type Given } from "@/core/engine";
import type { AccessOf, Party, Registers } from "@/core/form";
import { getPool, processes, type ReleaseRow } from "@/db";
import { partyOf } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { definitionNow } from "../kernel/definitionNow";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { engineFacts, factsReader, type FactsReader } from "../requests/facts";
import { pressable, pressed, type Press } from "../requests/pressed";
import { registersAtHand } from "../requests/registersAtHand";
import { releaseFor } from "../requests/releases";

/** The form of a process where whoever asks fills it in, before anything is sent. */
export interface AtStart {
  row: ReleaseRow;
  d: Directory;
  release: CompiledRelease;
  now: number;
  /** What was pressed, and what it fills in. */
  by: ReturnType<typeof pressable> | null;
  given: (Given & { title: string }) | undefined;
  access: AccessOf;
  requester: Party;
  turn: Turn;
  reader: FactsReader;
  seen: Registers;
}

/** @param press what was pressed on a record, where it begins by that */
export async function atStart(c: Call, processKey: string, press: Press | null): Promise<AtStart> {
  const db = getPool();
  const row = await processes.liveRelease(db, processKey);
  if (!row || (!press && !c.may({ action: "ask", starts: row.released.starts, live: true })))
    throw new Failed({ code: "not-found", data: { what: "process", id: processKey } });
  const d = await loadDirectory(db);
  const by = press && pressable(c, d, definitionNow(row, d.registers), press.start);
  const release = await releaseFor(db, d, row.id);
  const now = await nowMs(db);
  const given = by ? await pressed(db, c, d, by, press.record, now, false) : undefined;
  const requester = partyOf(c.actor);
  const turn = new Turn(
    release,
    { ...NEW_REQUEST, requester, startedAt: now },
    engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now, c.actor.zone),
    c.actor.id,
  );
  const shapes = registersAtHand(d, release, NONE_READ);
  const reader = factsReader(db, d, release.definition, { request: null, by: [c.actor.id] }, shapes);
  const access = startAccess(release, given);
  return {
    row,
    d,
    release,
    now,
    by,
    given,
    access,
    requester,
    turn,
    reader,
    seen: registersSeen(d, c.actor),
  };
}

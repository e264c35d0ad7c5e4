import { inCall, isOpen, levelsOf, proceduresFrom, releaseAt, type Level } from "@/core/engine";
import { withoutHidden } from "@/core/form";
import { START, widest } from "@/core/route";
import type { Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { idsNamed } from "../kernel/idsNamed";
import { inALetter } from "../mail/conversation";
import { loadRequest, type Loaded } from "../requests/loadRequest";

/**
 * Which files of a request whoever asks may open: those that stand in what they see of it, in a letter they may read, or that
 * they are asked to sign just now. Of a request they do not see, none.
 */
export async function inSight(
  c: Call,
  by: { id: string } | { number: string },
): Promise<(file: string) => Promise<boolean>> {
  let loaded: Loaded;
  try {
    loaded = await loadRequest(c, by);
  } catch (e) {
    if (e instanceof Failed) return async () => false;
    throw e;
  }
  const { row, release, access } = loaded;
  const { fields } = release.definition;
  const levels = levelsOf(row.state);
  const inForm = new Set(idsNamed("file", fields, withoutHidden(fields, row.state.data, access)));
  for (const level of levels) for (const id of namedInCall(loaded, level)) inForm.add(id);
  return async (id) =>
    inForm.has(id) || levels.some((level) => isToSign(c, level, id)) || inALetter(c, row.id, id);
}

/** Whether whoever asks is asked to sign it just now. */
const isToSign = (c: Call, { state }: Level, id: string): boolean =>
  Object.values(state.visits).some(
    (v) =>
      v.paper?.file === id &&
      Object.values(state.tasks).some(
        (t) => t.visit === v.id && isOpen(t) && t.candidates.some((x) => x.person === c.actor.id),
      ),
  );

/** The same in a procedure, for those who took part in it, and owners as everywhere. */
function namedInCall({ row, owner, release, procedures }: Loaded, level: Level): string[] {
  const { calls, state } = level;
  if (calls.length === 0) return [];
  const on = releaseAt(level, release, proceduresFrom(procedures));
  const { fields } = on.definition;
  const within = calls.map((x) => inCall(x.step, "")).join("");
  const steps = row.steps.filter((s) => s.startsWith(within)).map((s) => s.slice(within.length));
  const accesses = steps.filter((s) => s === START || on.places.has(s)).map((s) => on.access(s));
  if (owner) accesses.push(on.access("watch"));
  return idsNamed("file", fields, withoutHidden(fields, state.data, widest(accesses)));
}

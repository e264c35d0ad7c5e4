import { inCall, isOpen, levelsOf, proceduresFrom, releaseAt, type Level } from "@/core/engine";
import { withoutHidden } from "@/core/form";
import { START, widest } from "@/core/route";
import type { Call } from "../kernel/defineUseCase";
import { idsNamed } from "../kernel/idsNamed";
import { filesInLetters } from "../mail/conversation";
import type { Loaded } from "../requests/loadRequest";

/**
 * Which of some files of a request whoever asks may open: those that stand in what they see of it, in a letter they may
 * read, or that they are asked to sign just now.
 */
export async function inSight(
  c: Call,
  loaded: Loaded,
  files: readonly string[],
): Promise<ReadonlySet<string>> {
  const { row, release, access } = loaded;
  const { fields } = release.definition;
  const levels = levelsOf(row.state);
  const inForms = new Set([
    ...idsNamed("file", fields, withoutHidden(fields, row.state.data, access)),
    ...levels.flatMap((level) => namedInCall(loaded, level)),
  ]);
  const here = new Set(
    files.filter((id) => inForms.has(id) || levels.some((level) => isToSign(c, level, id))),
  );
  const inLetters = await filesInLetters(
    c,
    loaded,
    files.filter((id) => !here.has(id)),
  );
  return new Set([...here, ...inLetters]);
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

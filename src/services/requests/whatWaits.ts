import { levelOf, proceduresFrom, releaseAt } from "@/core/engine";
import type { Step } from "@/core/route";
import type { Db, requests } from "@/db";
import { loadDirectory } from "../kernel/directory";
import { proceduresAtHand } from "./proceduresAtHand";
import { releaseFor } from "./releases";

/** A step that waits for what it asked of the world, with the key and the calendar of the process or procedure it stands in. */
export interface Waiting {
  step: Step;
  in: string;
  calendar: string | undefined;
}

/** What waits for what an effect asked; null where nothing does any more. */
export async function whatWaits(
  db: Db,
  row: Pick<requests.RequestRow, "release_id" | "state">,
  effect: string,
): Promise<Waiting | null> {
  const at = levelOf(row.state, effect);
  const pending = at?.state.pending[at.id];
  if (!at || !pending) return null;
  const d = await loadDirectory(db);
  const own = await releaseFor(db, d, row.release_id);
  const inside = proceduresFrom(await proceduresAtHand(db, d, own, row.state));
  const release = releaseAt(at, own, inside);
  const step = release.places.get(pending.step)?.step;
  const { key, calendar } = release.definition;
  return step ? { step, in: key, calendar } : null;
}

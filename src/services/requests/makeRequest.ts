import { NEW_REQUEST, type Given } from "@/core/engine";
import type { FormData, Party, Passed } from "@/core/form";
import { files, processes, type Db, type recordStarts, type ReleaseRow } from "@/db";
import { attachFiles } from "../files/attachFiles";
import { idsNamed } from "../kernel/idsNamed";
import { SYSTEM, viaText, type Actor } from "../kernel/actor";
import { clockOffset } from "../kernel/clock";
import { loadDirectory } from "../kernel/directory";
import { carry } from "./carry";
import { keep, type Consequences, type Occasion } from "./keep";
import { proceduresAtHand } from "./proceduresAtHand";
import { releaseFor } from "./releases";

export interface Started extends Consequences {
  id: string;
  number: string;
}
interface Making {
  requester: Party;
  /** Who does it; null where a step of another request does. */
  actor: Actor | null;
  data: FormData;
  /** What it begins with that nobody filled in, where somebody pressed it on a record. */
  given?: Given | undefined;
  /** Why whoever asks goes on past checks that may be passed. */
  passed?: Passed;
  /** An idempotency key, and what was sent with it. */
  startKey: string | null;
  startHash: Buffer | null;
  /** By what it was started, oldest first; nothing where somebody asks. */
  chain?: readonly recordStarts.Cause[];
  /** The mail that starts it. */
  mail?: string;
  /** Files that were copied for it, by their ids; none where somebody sends them. */
  copied?: readonly string[];
  occasion: Occasion | undefined;
}

/** Makes a request of a release, in the caller's transaction. Whether that is allowed is the caller's to ask. */
export async function makeRequest(db: Db, row: ReleaseRow, m: Making): Promise<Started> {
  const { requester, actor, occasion } = m;
  const d = await loadDirectory(db);
  const offset = await clockOffset(db);
  const release = await releaseFor(db, d, row.id);
  const procedures = await proceduresAtHand(db, d, release, NEW_REQUEST);
  const { prefix, digits } = release.definition.numbering;
  const number = `${prefix}-${String(await processes.nextNumber(db, prefix)).padStart(digits, "0")}`;
  const now = occasion?.at ?? Date.now() + offset;
  const chain = m.chain ?? [];
  const via = actor && viaText(actor.via);
  const on = {
    db,
    directory: d,
    release,
    procedures,
    request: null,
    now,
    copies: m.copied ?? [],
    alone: !!occasion,
    ...(m.mail === undefined ? {} : { mail: m.mail }),
    via,
    chain,
  };
  const done = await carry(on, NEW_REQUEST, {
    type: "start",
    actor: actor?.id ?? null,
    requester,
    number,
    data: m.data,
    ...(m.given ? { given: m.given } : {}),
    ...(m.passed ? { passed: m.passed } : {}),
    ...(actor ? {} : { handed: true }),
  });
  const id = await keep(db, done, {
    release,
    procedures,
    row: null,
    fresh: {
      number,
      process: row.process_key,
      release: row.id,
      startKey: m.startKey,
      startHash: m.startHash,
      chain,
    },
    occasion,
    answered: null,
    by: actor ?? SYSTEM,
    beyond: d.beyond,
    mentioned: [],
  });
  if (id === null) throw new Error(`request ${number} was not written`);
  const named = idsNamed("file", release.definition.fields, done.state.data);
  const { copied = [] } = m;
  if (copied.length > 0) await files.giveFiles(db, copied, id);
  if (actor) await attachFiles(db, named, actor.id, id);
  return { id, number, changes: done.changes, outside: done.outside };
}

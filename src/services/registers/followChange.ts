import { columnsCalled, followCondition, followRegister } from "@/core/records";
import type { RegisterShape, Registers } from "@/core/form";
import { columnsRead } from "@/core/problems";
import { followColumns, registersKnown, type Edit, type ProcessDefinition } from "@/core/route";
import { at, processes, registers, type Client } from "@/db";
import { KINDS } from "@/kinds";
import { viaText, type Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import type { Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";

/** What reads columns of a register by their names, and goes along where those come to be others. */
export interface Followers {
  /** Formulas of which it cannot be told what they would read, in words. */
  refusals: string[];
  /** Who goes along, in words. */
  hits: string[];
  /** Keys of the processes whose drafts are rewritten. */
  drafts: string[];
  /** Other registers, as their formulas are then. */
  others: RegisterShape[];
}

export const NO_FOLLOWERS: Followers = { refusals: [], hits: [], drafts: [], others: [] };

/**
 * Looks at all that reads a register whose columns come to be called otherwise, or gets more. Releases in use keep their
 * text: they are read by the names they were checked with (`definitionNow`), which must go on to be told. Drafts and
 * formulas of other registers are to be written anew (`follow`). Nothing is changed here.
 */
export async function followersOf(
  db: Client,
  d: Directory,
  before: RegisterShape,
  after: RegisterShape,
): Promise<Followers> {
  const now: Registers = { ...d.registers, [before.key]: before };
  const then: Registers = { ...d.registers, [before.key]: after };
  const { renamed, added } = columnsCalled(now, then);
  if (renamed.length === 0 && added.length === 0) return NO_FOLLOWERS;
  const refusals: string[] = [];
  const goes: string[] = [];
  for (const r of await processes.releasesInUse(db, before.key)) {
    // Each is much to think about; others have their turn between them.
    await new Promise(setImmediate);
    const { released, names } = (await processes.releaseById(db, r.id))!;
    const { unclear } = followColumns(released, registersKnown(now, names), then, KINDS);
    if (unclear) refusals.push(unclearWords(`${r.name} ${r.version}`, unclear.data));
    else if (renamed.length > 0) goes.push(`${r.name} ${r.version}`);
  }
  const words = [...renamed.flatMap((x) => [x.from, x.to]), ...added];
  const drafts: string[] = [];
  for (const { process_key, definition } of await processes.draftsSaying(db, words)) {
    if (!reads(definition, before.key, now)) continue;
    const f = followColumns(definition, now, then, KINDS);
    if (f.unclear) refusals.push(unclearWords(`the draft of ${definition.name}`, f.unclear.data));
    else if (f.definition !== definition) {
      drafts.push(process_key);
      goes.push(`the draft of ${definition.name}`);
    }
  }
  const others: RegisterShape[] = [];
  for (const shape of Object.values(d.registers)) {
    if (shape.key === before.key) continue;
    const f = followRegister(shape, now, then, KINDS);
    if (f.unclear) refusals.push(unclearWords(`the column sheet of ${shape.name}`, f.unclear));
    else if (f.shape !== shape) {
      others.push(f.shape);
      goes.push(shape.name);
    }
  }
  const hits =
    goes.length > 0
      ? [`Formulas follow the ${renamed.length > 1 ? "new names" : "new name"}: ${goes.join(", ")}.`]
      : [];
  return { refusals, hits, drafts, others };
}

const reads = (definition: ProcessDefinition, register: string, around: Registers): boolean =>
  Object.hasOwn(columnsRead(definition, { registers: around, kinds: KINDS }), register);

const unclearWords = (where: string, u: { says: string; formula: string; why: string }): string =>
  `${where[0]!.toUpperCase()}${where.slice(1)} could not follow: ${u.says} reads "${u.formula}", and ${u.why}. Call the column something else, or change that formula first.`;

/** Writes anew what goes along with other names: drafts, other registers, conditions of kept views. */
export async function follow(
  actor: Actor,
  db: Client,
  d: Directory,
  before: RegisterShape,
  after: RegisterShape,
  f: Followers,
): Promise<void> {
  const now: Registers = { ...d.registers, [before.key]: before };
  const then: Registers = { ...d.registers, [before.key]: after };
  if (columnsCalled(now, then).renamed.length === 0) return;
  for (const shape of f.others) await registers.putShape(db, shape);
  for (const v of await registers.viewsWithConditions(db)) {
    const view = new URLSearchParams(v.view);
    const where = view.get("where");
    if (!where || !Object.hasOwn(now, v.register_key)) continue;
    const next = followCondition(where, v.register_key, now, then, KINDS);
    if (next === null || next === where) continue;
    view.set("where", next);
    await registers.putView(db, v.id, view.toString());
  }
  const columns = after.columns.flatMap((x) => {
    const from = before.columns.find((y) => y.id === x.id)?.name;
    return from === undefined || from === x.name ? [] : [{ id: x.id, from, to: x.name }];
  });
  const edit: Edit = { op: "columns.rename", register: before.key, columns };
  const when = await nowMs(db);
  for (const key of f.drafts) {
    // Others may have changed it since it was looked at.
    const row = (await processes.draftOf(db, key, true))!;
    const { definition, unclear } = followColumns(row.definition, now, then, KINDS);
    if (unclear)
      throw new Failed({
        code: "invalid",
        data: { path: "", message: unclearWords(`the draft of ${definition.name}`, unclear.data) },
      });
    const { title, starts, fields, route } = row.definition;
    const inverse: Edit = { op: "texts.restore", title, starts, fields, route };
    await processes.saveDraft(db, {
      process: key,
      definition,
      version: row.version + 1,
      at: at(when)!,
      by: actor.id,
      via: viaText(actor.via),
      edits: [{ edit, inverse }],
    });
  }
}

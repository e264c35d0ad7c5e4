import type { RowOutcome, SheetPlan } from "@/core/sheets";
import { writeRefusalSentence } from "@/core/words";
import { at, getPool, inTransaction, registers, sheetImports, whyUnavailable, type Client } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { seenRefusal } from "../registers/seenRefusal";
import { writeRecords } from "../registers/writeRecords";
import type { Writing } from "../registers/writing";
import { guessPlan, planMistake } from "./guessPlan";
import { bringingOf, type Bringing } from "./ownSheet";
import { readSheet } from "./readSheet";
import { tryRows, type Trying } from "./tryRows";

/** Rows that are taken at once. */
const LOT = 500;

type Import = sheetImports.SheetImportRow;

const GONE =
  "The register is not there any more, or you may not write to it any more. Nothing was brought in.";
const BROKEN =
  "Something went wrong in Cobble Step, and nothing was brought in. Bring the sheet in again; if it happens again, tell whoever looks after this installation.";

/** Goes on with a sheet that is brought in: reads it, tries it, or writes it. Done twice it does nothing more. */
export const workSheet = defineView(["run jobs"], async (c, id: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  const db = getPool();
  const i = await sheetImports.importOf(db, id);
  if (!i) return;
  try {
    if (i.status === "reading") await read(i);
    else if (i.status === "trying") await tryAll(i);
    else if (i.status === "writing") await write(i);
  } catch (e) {
    if (e instanceof Stopped) return;
    // What the database cannot do just now is tried again; anything else would only come to the same.
    if (whyUnavailable(e)) throw e;
    await end(i, "failed", BROKEN);
    throw e;
  }
});

/** Somebody has stopped it, or asked for something else meanwhile. */
class Stopped extends Error {}

const end = async (i: Import, status: "failed" | "done", why: string | null) =>
  sheetImports.changeImport(getPool(), i.id, ["reading", "trying", "writing"], null, {
    status,
    why,
    content: null,
    ended_at: at(await nowMs(getPool()))!,
  });

async function read(i: Import): Promise<void> {
  const db = getPool();
  const content = await sheetImports.contentOf(db, i.id);
  if (!content) throw new Error(`sheet ${i.id} has nothing to be read`);
  const got = await readSheet(content);
  if (!got.ok) return void (await end(i, "failed", got.why));
  const { headings, rows, notes } = got.sheet;
  for (let n = 0; n < rows.length; n += LOT) await sheetImports.insertRows(db, i.id, rows.slice(n, n + LOT));
  const said = { headings, notes, total: rows.length, content: null } as const;
  if (i.register_key === null)
    return void (await sheetImports.changeImport(db, i.id, ["reading"], null, { ...said, status: "naming" }));
  const b = await bringingOf(db, i);
  if (!b) return void (await end(i, "failed", GONE));
  const plan = guessPlan(b.shape, b.may, headings, rows);
  const set = await sheetImports.changeImport(db, i.id, ["reading"], null, {
    ...said,
    plan,
    status: "trying",
  });
  const now = set && (await sheetImports.importOf(db, i.id));
  if (now && now.status === "trying") await tryAll(now);
}

/** On whose behalf it is written. */
const writingOf = async (db: Writing["db"], i: Import, b: Bringing, plan: SheetPlan): Promise<Writing> => ({
  db,
  directory: b.d,
  at: await nowMs(db),
  by: i.person_id,
  via: i.via,
  request: null,
  behind: { kind: b.actor.kind === "service" ? "service" : "person", id: b.actor.id },
  chain: [],
  quietly: plan.quietly,
  ...(plan.aMinute === null ? {} : { pace: { aMinute: plan.aMinute, begun: 0 } }),
});

async function tryAll(i: Import): Promise<void> {
  const db = getPool();
  const b = await bringingOf(db, i);
  if (!b || !i.plan) return void (await end(i, "failed", GONE));
  const counts: Partial<Record<RowOutcome, number>> = {};
  const starts: Record<string, number> = {};
  const carried: Trying = { keys: new Map(), taken: new Map() };
  const w = await writingOf(db, i, b, i.plan);
  const still = (set: Parameters<typeof sheetImports.changeImport>[4]) =>
    sheetImports.changeImport(db, i.id, ["trying"], i.asking, { done, counts, starts, ...set });
  let [done, line] = [0, 0];
  for (;;) {
    const rows = await sheetImports.rowsAfter(db, i.id, line, LOT);
    if (rows.length === 0) break;
    const { came, starts: begun } = await tryRows(w, b, i.plan, rows, carried);
    await sheetImports.rowsCame(db, i.id, i.asking, came);
    for (const r of came) counts[r.outcome] = (counts[r.outcome] ?? 0) + 1;
    for (const [k, n] of Object.entries(begun)) starts[k] = (starts[k] ?? 0) + n;
    done += rows.length;
    line = rows.at(-1)!.line;
    if (!(await still({}))) throw new Stopped();
  }
  await still({ status: "tried" });
}

/** Writes what was tried, in one transaction: all of the rows that fit are there afterwards, or none. */
async function write(i: Import): Promise<void> {
  const ended = await inTransaction(async (db) => {
    const b = await bringingOf(db, i);
    const mistake = b && i.plan ? planMistake(i.plan, i.headings, b.shape, b.may) : GONE;
    if (!b || !i.plan || mistake !== null) return { why: mistake ?? GONE };
    const counts = await writeAll(db, i, b, i.plan);
    const kept = await sheetImports.changeImport(db, i.id, ["writing"], i.asking, {
      status: "done",
      counts,
      done: i.total,
      ended_at: at(await nowMs(db))!,
    });
    // It was stopped while it wrote, or another worker that was given the same has written it: all is taken back.
    if (!kept) throw new Stopped();
    return { why: null };
  });
  if (ended.why !== null) return void (await end(i, "failed", ended.why));
  // What was brought in stands in the register; what was refused can be fetched for some days.
  await sheetImports.deleteRows(getPool(), i.id, ["refused"]);
}

async function writeAll(db: Client, i: Import, b: Bringing, plan: SheetPlan) {
  const w = await writingOf(db, i, b, plan);
  const counts = { ...i.counts, added: 0, changed: 0 } as Record<RowOutcome, number>;
  for (let line = 0; ;) {
    const rows = await sheetImports.rowsAfter(db, i.id, line, LOT, ["added", "changed"]);
    if (rows.length === 0) return counts;
    line = rows.at(-1)!.line;
    const meanwhile = await addedMeanwhile(db, b, plan, rows);
    const refused: sheetImports.RowCame[] = [];
    const refuse = (r: sheetImports.SheetRowRow, why: string) => {
      refused.push({ line: r.line, outcome: "refused", write: null, title: r.title ?? "", what: [], why });
      counts.refused = (counts.refused ?? 0) + 1;
    };
    for (const r of rows.filter((x) => meanwhile.has(x)))
      refuse(
        r,
        "Somebody has added it since you looked. Bring the file of refused rows in again to change it.",
      );
    const left = rows.filter((r) => !meanwhile.has(r));
    const wrote = await writeRecords(
      w,
      b.whole.key,
      left.map((r) => r.write!),
    );
    for (const [n, o] of wrote.entries()) {
      const r = left[n]!;
      if (!o.ok) refuse(r, writeRefusalSentence(seenRefusal(b.actor, b, o.why), b.shape, b.d.registers));
      else if (!o.change) counts.same = (counts.same ?? 0) + 1;
      else counts[r.write!.op === "add" ? "added" : "changed"]++;
    }
    if (refused.length > 0) await sheetImports.rowsCame(db, i.id, i.asking, refused);
    // Told outside of the transaction, so that whoever waits sees it, and may stop it.
    const done = counts.added + counts.changed;
    if (!(await sheetImports.changeImport(getPool(), i.id, ["writing"], i.asking, { done })))
      throw new Stopped();
  }
}

/** Rows to be added whose key somebody has given to a record since they were tried. */
async function addedMeanwhile(
  db: Client,
  b: Bringing,
  plan: SheetPlan,
  rows: readonly sheetImports.SheetRowRow[],
) {
  const { key } = plan;
  const out = new Set<sheetImports.SheetRowRow>();
  if (key === null) return out;
  const keyOf = (r: sheetImports.SheetRowRow) =>
    r.write?.op === "add" ? String(r.write.values[key] ?? "") : "";
  const adds = rows.filter((r) => keyOf(r) !== "");
  const there = await registers.recordsWithAny(db, b.whole, key, adds.map(keyOf));
  for (const r of adds) if (there.has(keyOf(r))) out.add(r);
  return out;
}

import { fieldsOfRegister, reworked, shapeChange, type RecordProgram } from "@/core/records";
import { recordTitle, type Column, type RegisterShape, type SheetReading } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { inTransaction, registers, type Client, type RecordRow } from "@/db";
import { actorOf } from "../kernel/actor";
import { canonicalJson } from "../kernel/canonicalJson";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { registersSeen, rightsOf } from "../kernel/registersSeen";
import { engineFacts, factsReader } from "../requests/facts";
import { readerOf, readingOf, textsOf } from "./convertColumn";
import { putChange } from "./putChange";
import { dropMade } from "./reshape";
import { anewOf, programAfter, type Anew } from "./reshapePlan";
import { hitsOf } from "./shapeHits";

/** Records gone through in one transaction. */
const LOT = 1000;
/** Texts by which it is told how dates and numbers are written. */
const MOST_TEXTS = 200_000;
/** Records written meanwhile that are gone through once more with the table held; of more it is begun anew. */
const MOST_HELD = 10_000;
/** Of what is lost so many are told. */
const TOLD = 3;

type Row = registers.ReshapeRow;

/**
 * Goes through the records of a register whose shape is changed, lot by lot, each in a transaction of its own that says
 * how far it came, and puts what was made in its place at the end. Done twice, or by two workers, it does nothing more.
 */
export const workReshape = defineView(["run jobs"], async (c, id: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  for (let next: Next = "lot"; next !== "over";)
    next = await inTransaction((db) => (next === "lot" ? goOn(db, id) : end(db, id)));
  // Indexes of a large register are made beside everybody's work.
  await registers.indexOldRegisters();
});

type Next = "lot" | "end" | "over";

/** One lot. */
async function goOn(db: Client, id: string): Promise<Next> {
  const r = await registers.holdReshape(db, id);
  if (r?.state !== "working") return "over";
  const d = await loadDirectory(db);
  const key = r.register_key;
  const ids = await registers.idsAfter(db, key, r.last_id, LOT);
  if (ids.length === 0) return "end";
  const reading = r.last_id === "0" ? await readings(db, r) : r.reading;
  const why = await makeLot(db, d, { ...r, reading }, ids);
  if (why !== null) return refuse(db, r, why);
  await registers.saveReshape(db, id, { ...r, reading, last_id: ids.at(-1)!, done: r.done + ids.length });
  return "lot";
}

const anewFor = (r: Row): Anew =>
  anewOf(shapeChange(r.before, r.after), r.after, new Set(r.before.columns.map((c) => c.id)));

/** How each column's texts are read, told by all of them and not by those of a lot. */
async function readings(db: Client, r: Row): Promise<Record<string, SheetReading>> {
  const out: Record<string, SheetReading> = {};
  for (const { column, from } of await retypedBeside(db, r))
    out[column.id] = readingOf(await registers.textsIn(db, r.register_key, from, MOST_TEXTS));
  return out;
}

/** Of the columns of another kind those that held something when it began: the others have nothing made beside. */
async function retypedBeside(db: Client, r: Row): Promise<{ column: Column; from: Column }[]> {
  const there = await registers.columnsThere(db, r.register_key);
  return anewFor(r).retyped.filter(({ column }) => there.has(registers.besideId(column.id)));
}

/** All columns whose values are made beside. */
const madeBeside = async (db: Client, r: Row): Promise<Column[]> => [
  ...(await retypedBeside(db, r)).map((x) => x.column),
  ...anewFor(r).worked,
];

/** Makes the new values of some records; why not, where one of them cannot be worked out. */
async function makeLot(db: Client, d: Directory, r: Row, ids: readonly string[]): Promise<string | null> {
  const { before, after, register_key: key } = r;
  const actor = await actorOf(db, r.person_id);
  const seen = actor ? registersSeen(d, actor) : {};
  // In the order in which whoever writes several holds them.
  const rows = await registers.lockRecords(db, before, ids);
  const made = new Map(rows.map((x) => [x.id, {} as Record<string, string | boolean | null>]));
  const retyped = await retypedBeside(db, r);
  for (const { column, from } of retyped) {
    const known = await textsOf(db, d, seen, before, from, rows);
    const read = await readerOf(db, d, seen, before, from, column, known, r.reading[column.id]!);
    for (const row of rows) made.get(row.id)![column.id] = null;
    for (const k of known) made.get(k.id)![column.id] = read(k.raw, k.text);
  }
  const { worked } = anewFor(r);
  if (worked.length > 0) {
    const why = await workOut(db, d, r, rows, made);
    if (why !== null) return why;
  }
  const columns = [...retyped.map((x) => x.column), ...worked];
  const beside: RegisterShape = { ...after, columns: columns.map(registers.beside) };
  await registers.updateRecords(
    db,
    beside,
    beside.columns.map((c) => c.id),
    rows.map((row) => ({
      ...Object.fromEntries(columns.map((c) => [registers.besideId(c.id), made.get(row.id)![c.id] ?? null])),
      id: row.id,
    })),
  );
  return key === after.key ? null : "A register keeps its key.";
}

/** Works out what is, of records as they are to be. */
async function workOut(
  db: Client,
  d: Directory,
  r: Row,
  rows: readonly RecordRow[],
  made: ReadonlyMap<string, Record<string, string | boolean | null>>,
): Promise<string | null> {
  const program: RecordProgram = programAfter(r.after, d.registers);
  const kept = (row: RecordRow) =>
    Object.fromEntries(
      r.after.columns.map((c) => [
        c.id,
        made.get(row.id)![c.id] ?? (isSame(r, c) ? (row[c.id] ?? null) : null),
      ]),
    );
  const datas = rows.map(kept);
  const reader = factsReader(
    db,
    d,
    { fields: fieldsOfRegister(r.after) },
    { request: null, by: [], ofRecords: true },
  );
  const facts = engineFacts(d, await reader.load([], ...datas), await nowMs(db));
  for (const [i, row] of rows.entries()) {
    const w = reworked(program, datas[i]!, facts);
    if (!w.ok) return `${recordTitle(r.before, row)}: ${formProblemSentence(w.problems[0]!)}`;
    Object.assign(made.get(row.id)!, w.values);
  }
  return null;
}

/** Whether a column is read as it stands: it is of the same kind as before. */
const isSame = (r: Row, c: Column): boolean => {
  const from = r.before.columns.find((x) => x.id === c.id);
  return from !== undefined && !shapeChange(r.before, r.after).retyped.some((x) => x.column.id === c.id);
};

/** Everything has been gone through: what was written meanwhile once more, and then it takes its place. */
async function end(db: Client, id: string): Promise<Next> {
  // Shapes first, as whoever changes one does: else two would wait for each other.
  await registers.holdShapes(db, "to change");
  const r = await registers.holdReshape(db, id);
  if (r?.state !== "working") return "over";
  const d = await loadDirectory(db);
  const key = r.register_key;
  const actor = await actorOf(db, r.person_id);
  if (!actor || !rightsOf(d, key).keepers.includes(actor.id))
    return refuse(db, r, "Whoever changed it does not look after this register any more.");
  const now = registerOf(d, key)!;
  if (canonicalJson(now) !== canonicalJson(r.before))
    return refuse(
      db,
      r,
      "What its formulas read of another register came to be called otherwise meanwhile. Make the change once more.",
    );
  await registers.holdTable(db, key);
  const changed = await registers.changedSince(db, key, r.mark);
  if (changed.length > MOST_HELD) {
    await registers.beginAgain(db, id);
    return "lot";
  }
  for (let at = 0; at < changed.length; at += LOT) {
    const why = await makeLot(db, d, r, changed.slice(at, at + LOT));
    if (why !== null) return refuse(db, r, why);
  }
  const lost = await lossesOf(db, d, r);
  const asked = lost.filter((l) => !r.lets.includes(l.column));
  if (asked.length > 0) {
    await registers.saveReshape(db, id, { ...r, state: "asks", loses: asked });
    return "over";
  }
  const hits = await hitsOf(db, d, registersSeen(d, actor), now, r.after, 0);
  const first = hits.problems[0]?.message ?? hits.refusals[0] ?? (await unfit(db, r));
  if (first !== null && first !== undefined) return refuse(db, r, first);
  const made = (await madeBeside(db, r)).map((c) => c.id);
  const change = shapeChange(now, r.after);
  await putChange(db, actor, d, { now, after: r.after, change, followers: hits.followers, made });
  for (const { column: x } of change.retyped)
    if (x.needed && !x.worked) await registers.setNeeded(db, key, x);
  await registers.saveReshape(db, id, { ...r, state: "done", done: r.total });
  return "over";
}

async function refuse(db: Client, r: Row, why: string): Promise<Next> {
  await dropMade(db, r);
  await registers.saveReshape(db, r.id, { ...r, state: "refused", why });
  return "over";
}

/** What nothing could be made of. */
async function lossesOf(db: Client, d: Directory, r: Row): Promise<registers.ReshapeLoss[]> {
  const out: registers.ReshapeLoss[] = [];
  for (const { column, from } of await retypedBeside(db, r)) {
    const { count, ids } = await registers.lostIn(db, r.register_key, from, TOLD);
    if (count === 0) continue;
    const rows = await registers.recordsByIds(db, r.before, ids);
    const known = await textsOf(
      db,
      d,
      registersSeen(d, (await actorOf(db, r.person_id))!),
      r.before,
      from,
      rows,
    );
    const examples = known.map(({ title, text }) => ({ title, text }));
    out.push({ column: column.id, name: column.name, count, examples });
  }
  return out;
}

/** Why what was made cannot take its place: something is needed that is empty, or shared where nothing may be. */
async function unfit(db: Client, r: Row): Promise<string | null> {
  for (const column of await madeBeside(db, r)) {
    const there = registers.beside(column);
    const { empty } = await registers.filledIn(db, r.register_key, there);
    if (column.needed && empty > 0)
      return `"${column.name}" is needed, and ${empty} records would have nothing in it.`;
    const apart = column.unique === true || r.after.key_column === column.id;
    const twice = apart ? await registers.firstTwice(db, r.register_key, there) : null;
    if (twice !== null)
      return `"${column.name}" cannot be kept apart: more than one record would have "${twice}".`;
  }
  return null;
}

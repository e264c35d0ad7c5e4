import { registerProblems, shapeChange, type RegisterProblem, type ShapeChange } from "@/core/records";
import { staying, type Column, type RegisterShape, type Registers } from "@/core/form";
import { processes, registers, ROLE_HOLDERS, type Client } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";
import { holdsSameFiles, convertColumn, type Converted } from "./convertColumn";
import { anewOf, isAnything, MOST_AT_ONCE, type Anew } from "./reshapePlan";
import { problemsOfShape, readersOf } from "./leaving";
import { followersOf, NO_FOLLOWERS, type Followers } from "./followChange";

/** What a change of a register would hit, before it is made. */
export interface ShapeHits {
  problems: RegisterProblem[];
  /** What keeps it from being made, in words. */
  refusals: string[];
  /** What it would come to, in words. */
  hits: string[];
  /** Of columns that come to be of another kind, what nothing can be made of: it is left out where that is agreed to. */
  loses: LostValues[];
}

/** Values of a column that its new kind cannot hold; some of the records they stand in. */
export interface LostValues {
  /** Id of the column. */
  column: string;
  name: string;
  count: number;
  examples: { title: string; text: string }[];
}

/** What a change comes to beside what is told. */
interface Reshaping {
  converted: Converted[];
  followers: Followers;
  anew: Anew;
  /** There are more records to be read anew than one transaction may hold. */
  long: boolean;
}

/** What the office itself reads of the register of duties. */
const DUTY_COLUMNS = new Set(["duty", "person", "site", "department"]);
/** Of records whose value is lost so many are told. */
const LOST_TOLD = 3;

/**
 * What a change would come to. Nothing is changed.
 * @param seen the registers whoever changes it may see
 * @param atOnce so many records are read anew in one transaction; where there are more, nothing is converted here
 * @returns with what becomes of the values of columns that come to be of another kind
 */
export async function hitsOf(
  db: Client,
  d: Directory,
  seen: Registers,
  before: RegisterShape,
  after: RegisterShape,
  atOnce = MOST_AT_ONCE,
): Promise<ShapeHits & Reshaping> {
  const problems = problemsOfShape(after, d.registers);
  const change = shapeChange(before, after);
  const refusals: string[] = [];
  const hits: string[] = [];
  const readers = await processes.releasesInUse(db, before.key);
  const readBy = (c: Column) => readersOf(readers, c);
  const has = (c: Column) => registers.filledIn(db, before.key, c);
  for (const c of change.removed) {
    if (before.key === ROLE_HOLDERS && DUTY_COLUMNS.has(c.id))
      refusals.push(`"${c.name}" cannot go: the office reads from it who holds which duty.`);
    const { filled } = await has(c);
    if (filled > 0) hits.push(`What ${filled} records hold in "${c.name}" is set aside with it.`);
  }
  for (const c of after.columns.filter((x) => x.leaving)) {
    const was = before.columns.find((x) => x.id === c.id);
    if (!was || was.leaving) continue;
    if (before.key === ROLE_HOLDERS && DUTY_COLUMNS.has(c.id))
      refusals.push(`"${c.name}" cannot go: the office reads from it who holds which duty.`);
    hits.push(
      `Nobody sees "${was.name}" any more. It stays until none of these reads it: ${readBy(c).join(", ")}.`,
    );
  }
  // What is wrong with its own formulas is told first: nothing else could be read against them.
  const followers = problems.length === 0 ? await followersOf(db, d, before, after) : NO_FOLLOWERS;
  refusals.push(...followers.refusals);
  hits.push(...followers.hits);
  const converted: Converted[] = [];
  const holding = new Map<string, { filled: number; empty: number }>();
  for (const { from } of change.retyped) holding.set(from.id, await has(from));
  const anew = anewOf(change, after, new Set([...holding].flatMap(([id, h]) => (h.filled > 0 ? [id] : []))));
  const many = isAnything(anew) ? (await registers.idsAfter(db, before.key, "0", atOnce + 1)).length : 0;
  const long = many > atOnce;
  for (const { column, from } of change.retyped) {
    const by = readBy(column);
    const { filled, empty } = holding.get(from.id)!;
    const file = [column, from].some((c) => KINDS.fields[c.kind].idOf === "file");
    if (filled > 0 && file && !holdsSameFiles(from, column)) {
      refusals.push(
        `"${from.name}" cannot become ${column.kind} with records in it: a file is made of nothing else, and nothing else of a file. Add another column.`,
      );
      continue;
    }
    if (column.needed && !column.worked && empty > 0) refusals.push(notYetNeeded(column, empty));
    if (by.length > 0)
      refusals.push(`"${column.name}" cannot become ${column.kind} while it is read by ${by.join(", ")}.`);
    // What is worked out is so anew.
    else if (filled > 0 && problems.length === 0 && !column.worked && !long)
      converted.push(await convertColumn(db, d, seen, before, from, column));
  }
  for (const c of converted) {
    hits.push(
      `${c.values.size} of ${c.values.size + c.lost.length} records keep what they hold in "${c.column.name}", read as ${c.column.kind}. What stood there is set aside.`,
    );
    const [first] = c.lost;
    if (first && c.column.needed)
      refusals.push(
        `"${c.column.name}" is needed, and ${c.lost.length} ${c.lost.length === 1 ? "record" : "records"} would have nothing in it: ${first.title} holds "${first.text}". Mend that first, or let it not be needed.`,
      );
    const twice = c.column.unique || before.key_column === c.column.id ? firstShared(c) : null;
    if (twice !== null)
      refusals.push(`"${c.column.name}" cannot be kept apart: more than one record would have "${twice}".`);
  }
  refusals.push(...othersHit(d, before, after, followers.others));
  await addedHits(db, before, change, refusals);
  for (const { column, options } of change.gone) {
    const n = await registers.countHolding(db, before.key, column, options);
    if (n > 0)
      hits.push(
        `${n} records go on holding ${options.join(", ")} in "${column.name}", which can be chosen no more.`,
      );
  }
  if (long)
    hits.push(
      "More records are read anew than can be held at once. That is done beside everybody's work, and takes its place when all are through; until then the register stays as it is.",
    );
  else if (anew.worked.length > 0 && many > 0) hits.push(`${many} records are worked out anew.`);
  const loses = converted.flatMap(({ column: { id: column, name }, lost }) =>
    lost.length > 0
      ? [
          {
            column,
            name,
            count: lost.length,
            examples: lost.slice(0, LOST_TOLD).map(({ title, text }) => ({ title, text })),
          },
        ]
      : [],
  );
  return { problems, refusals, hits, loses, converted, followers, anew, long };
}

const notYetNeeded = (c: Column, empty: number): string =>
  `"${c.name}" cannot be needed yet: ${empty === 1 ? "one record has" : `${empty} records have`} nothing in it.`;

/** A value that more than one record would have; null where none is shared. */
function firstShared({ values }: Converted): string | null {
  const had = new Set<string | boolean>();
  for (const v of values.values()) {
    if (had.has(v)) return String(v);
    had.add(v);
  }
  return null;
}

/** Formulas of other registers that read this one by links, and could not be read any more. */
function othersHit(
  d: Directory,
  before: RegisterShape,
  after: RegisterShape,
  followed: readonly RegisterShape[],
): string[] {
  const problems = (other: RegisterShape, shape: RegisterShape) =>
    registerProblems(other, { registers: { ...d.registers, [shape.key]: shape }, kinds: KINDS });
  return Object.values(d.registers).flatMap((other) => {
    if (other.key === before.key) return [];
    const had = new Set(problems(other, staying(before)).map((p) => p.message));
    const then = followed.find((s) => s.key === other.key) ?? other;
    const more = problems(then, staying(after)).filter((p) => !had.has(p.message));
    return more.map((p) => `A formula of ${other.name} could not be read any more: ${p.message}`);
  });
}

/** What records that are there keep from becoming needed, or something no two share. */
async function addedHits(db: Client, { key }: RegisterShape, change: ShapeChange, refusals: string[]) {
  const some = (await registers.idsAfter(db, key, "0", 1)).length > 0;
  for (const c of change.added)
    if (some && c.needed && !c.worked)
      refusals.push(
        `"${c.name}" cannot be needed at once: the records that are there have nothing in it. Add it, fill it in, then make it needed.`,
      );
  // Of one that comes to be of another kind what it holds now says nothing.
  const other = new Set(change.retyped.map((x) => x.column.id));
  for (const c of change.needed) {
    if (!c.needed || c.worked || other.has(c.id)) continue;
    const { empty } = await registers.filledIn(db, key, c);
    if (empty > 0) refusals.push(notYetNeeded(c, empty));
  }
  for (const c of change.unique) {
    const twice = c.unique && !other.has(c.id) ? await registers.firstTwice(db, key, c) : null;
    if (twice !== null)
      refusals.push(`"${c.name}" cannot be kept apart: more than one record has "${twice}".`);
  }
}

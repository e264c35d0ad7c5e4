import { randomBytes } from "node:crypto";
import type { RegisterShape } from "@/core/form";
import type { Wrote } from "@/core/records";
import { files, registers, type FileRow } from "@/db";
import { KINDS } from "@/kinds";
import { reaches } from "../files/fileFacts";
import type { Planned, Writing } from "./writing";

/** What each planned record comes to keep, by the ids of files, once it stands. */
export type FilesTaken = Map<Planned, string[]>;

/** The columns of a register that hold files. */
export const fileColumns = (shape: RegisterShape): string[] =>
  shape.columns.flatMap((c) => (KINDS.fields[c.kind].idOf === "file" ? [c.id] : []));

/**
 * Sees to it that each file stands with one record alone, because who sees that one opens it. What somebody added goes
 * to the record they write it into; what was sent with a request stays with it, and the record gets a copy, unless it
 * has the same already. Any other file is refused, as not there.
 * @param out takes what is refused, and what turns out to stand there as it was
 * @returns what is still to be written, its values with copies in the place of files, and what is taken with it
 */
export async function takeFiles(
  w: Writing,
  shape: RegisterShape,
  planned: readonly Planned[],
  out: Map<number, Wrote>,
): Promise<{ left: Planned[]; taken: FilesTaken }> {
  const columns = fileColumns(shape);
  const taken: FilesTaken = new Map();
  const changed = (p: Planned) =>
    p.values === null ? [] : columns.filter((c) => p.values![c] && p.values![c] !== p.before?.[c]);
  const named = planned.flatMap((p) => changed(p).flatMap((c) => [p.values![c], p.before?.[c]]));
  const ids = [...new Set(named.filter((v): v is string => typeof v === "string"))];
  if (ids.length === 0) return { left: [...planned], taken };
  const rows = new Map((await files.holdFiles(w.db, ids)).map((r) => [r.id, r]));
  const free = await ofGoneRecords(w, shape, [...rows.values()]);
  const given = new Set<string>();
  const copies: { from: string; to: string }[] = [];
  const left: Planned[] = [];
  for (const p of planned) {
    const values = { ...p.values };
    const takes: string[] = [];
    let wrong: string | null = null;
    for (const c of changed(p)) {
      const file = rows.get(String(values[c]));
      const had = rows.get(String(p.before?.[c] ?? ""));
      if (!file) wrong ??= c;
      else if (file.record && file.record.register === shape.key && file.record.id === p.before?.id) continue;
      else if (w.files && reaches(w.files, file)) {
        if (had && sameContents(had, file)) values[c] = had.id;
        else {
          const to = randomBytes(18).toString("base64url");
          copies.push({ from: file.id, to });
          takes.push((values[c] = to));
        }
      } else if (!w.files && mayTake(w, file, free) && !given.has(file.id)) {
        given.add(file.id);
        takes.push(file.id);
      } else wrong ??= c;
    }
    if (wrong !== null) {
      const field = shape.columns.find((c) => c.id === wrong)!.name;
      out.set(p.nth, {
        ok: false,
        why: { code: "form", problems: [{ code: "no-file", path: wrong, data: { field } }] },
      });
    } else if (
      p.before &&
      p.values &&
      columns.some((c) => values[c] !== p.values![c]) &&
      isSame(shape, p.before, values)
    )
      out.set(p.nth, { ok: true, change: null, record: p.before });
    else {
      const next = p.values === null ? p : { ...p, values };
      left.push(next);
      if (takes.length > 0) taken.set(next, takes);
    }
  }
  await files.copyForRecords(w.db, copies);
  return { left, taken };
}

/** Has the records that were written keep what they take. */
export async function keepTaken(
  w: Writing,
  shape: RegisterShape,
  taken: FilesTaken,
  applied: readonly (readonly [number, Wrote])[],
): Promise<void> {
  if (taken.size === 0) return;
  const wrote = new Map(applied);
  const kept = [...taken].flatMap(([{ nth }, ids]) => {
    const r = wrote.get(nth);
    return r?.ok ? ids.map((file) => ({ file, record: r.record.id })) : [];
  });
  await files.keepFiles(w.db, shape.key, kept);
}

const isSame = (
  shape: RegisterShape,
  a: Readonly<Record<string, unknown>>,
  b: Readonly<Record<string, unknown>>,
) => shape.columns.every((c) => (a[c.id] ?? null) === (b[c.id] ?? null));

const sameContents = (a: FileRow, b: FileRow): boolean => a.sha256 === b.sha256 && a.name === b.name;

/** One's own that is nobody's yet, or one that a record kept which is there no more: that one is being put back. */
const mayTake = (w: Writing, file: FileRow, free: ReadonlySet<string>): boolean =>
  free.has(file.id) || (file.request_id === null && file.record === null && file.added_by === w.by);

async function ofGoneRecords(
  w: Writing,
  shape: RegisterShape,
  rows: readonly FileRow[],
): Promise<Set<string>> {
  const kept = rows.filter((r) => r.record?.register === shape.key);
  const ids = kept.map((r) => r.record!.id);
  const there = new Set((await registers.recordsByIds(w.db, shape, ids)).map((r) => r.id));
  return new Set(kept.filter((r) => !there.has(r.record!.id)).map((r) => r.id));
}

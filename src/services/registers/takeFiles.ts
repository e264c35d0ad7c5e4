import { randomBytes } from "node:crypto";
import { joinedByLine, type Column, type RegisterShape } from "@/core/form";
import type { Wrote } from "@/core/records";
import { files, registers, type FileRow } from "@/db";
import { KINDS } from "@/kinds";
import { reaches } from "../files/fileFacts";
import { idsIn } from "../kernel/idsNamed";
import type { Planned, Writing } from "./writing";

/** What each planned record comes to keep, by the ids of files, once it stands. */
export type FilesTaken = Map<Planned, string[]>;

/** The columns of a register that hold files. */
export const fileColumns = (shape: RegisterShape): Column[] =>
  shape.columns.filter((c) => KINDS.fields[c.kind].idOf === "file");

type Values = Readonly<Record<string, unknown>> | null;
const idsOf = (c: Column, of: Values): string[] => idsIn(c, of?.[c.id]);

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
    p.values === null ? [] : columns.filter((c) => p.values![c.id] && p.values![c.id] !== p.before?.[c.id]);
  const named = planned.flatMap((p) =>
    changed(p).flatMap((c) => [...idsOf(c, p.values), ...idsOf(c, p.before)]),
  );
  const ids = [...new Set(named)];
  if (ids.length === 0) return { left: [...planned], taken };
  const rows = new Map((await files.holdFiles(w.db, ids)).map((r) => [r.id, r]));
  const free = await ofGoneRecords(w, shape, [...rows.values()]);
  const given = new Set<string>();
  const copies: { from: string; to: string }[] = [];
  const left: Planned[] = [];
  for (const p of planned) {
    const values = { ...p.values };
    const takes: string[] = [];
    let wrong: Column | null = null;
    for (const c of changed(p)) {
      // What the record has already, by what it is, is kept and not added beside itself.
      const had = new Set(idsOf(c, p.before).flatMap((id) => rows.get(id) ?? []));
      const kept = idsOf(c, values).map((id): string | null => {
        const file = rows.get(id);
        if (!file) return null;
        if (file.record && file.record.register === shape.key && file.record.id === p.before?.id) return id;
        if (w.files && reaches(w.files, file)) {
          const same = [...had].find((h) => sameContents(h, file));
          if (same) {
            had.delete(same);
            return same.id;
          }
          const to = randomBytes(18).toString("base64url");
          copies.push({ from: file.id, to });
          takes.push(to);
          return to;
        }
        if (w.files || !mayTake(w, file, free) || given.has(id)) return null;
        given.add(id);
        takes.push(id);
        return id;
      });
      if (kept.includes(null)) wrong ??= c;
      else values[c.id] = joinedByLine(kept.flatMap((id) => id ?? []));
    }
    if (wrong !== null) {
      const { id: path, name: field } = wrong;
      out.set(p.nth, {
        ok: false,
        why: { code: "form", problems: [{ code: "no-file", path, data: { field } }] },
      });
    } else if (
      p.before &&
      p.values &&
      columns.some((c) => values[c.id] !== p.values![c.id]) &&
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

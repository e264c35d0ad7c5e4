"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { formData } from "@/contracts";
import type { FormData as Values } from "@/core/form";
import {
  changeRecords,
  dropRecordDraft,
  leaveNote,
  putBack,
  removeNote,
  removeRecord,
  removeRecords,
  saveRecord,
  saveRecordDraft,
  sentenceOf,
  type ManyChanged,
  type NoteLeft,
} from "@/services";
import { answerOf, requireActor, type Answer } from "@/web";

const key = z.string().max(60);
const numeric = z.string().regex(/^\d{1,18}$/);
const record = numeric.nullable();
const value = z.union([z.string().max(20_000), z.boolean(), z.null()]);
const values = z.record(z.string().max(60), value);
const ids = z.array(numeric).max(5000);

export async function saveRecordAction(
  register: string,
  id: string | null,
  seen: string | null,
  data: Values,
): Promise<Answer<{ id: string; version: string }>> {
  const r = await answerOf(
    await saveRecord(
      await requireActor(),
      key.parse(register),
      record.parse(id),
      record.parse(seen),
      values.parse(data),
    ),
  );
  if (r.ok) revalidatePath(`/registers/${register}`, "layout");
  return r;
}
export async function saveRecordDraftAction(
  register: string,
  id: string | null,
  draft: { typed: Values; base: Values; version: string | null },
): Promise<Answer<{ savedAt: number }>> {
  const kept = {
    typed: formData.parse(draft.typed),
    base: formData.parse(draft.base),
    version: record.parse(draft.version),
  };
  return answerOf(await saveRecordDraft(await requireActor(), key.parse(register), record.parse(id), kept));
}
export async function dropRecordDraftAction(register: string, id: string | null): Promise<void> {
  await dropRecordDraft(await requireActor(), key.parse(register), record.parse(id));
}
export async function leaveNoteAction(register: string, id: string, text: string): Promise<Answer<NoteLeft>> {
  const r = await answerOf(
    await leaveNote(
      await requireActor(),
      key.parse(register),
      numeric.parse(id),
      z.string().max(20_000).parse(text),
    ),
  );
  if (r.ok) revalidatePath(`/registers/${register}/${id}`);
  return r;
}
export async function removeNoteAction(register: string, id: string, note: string): Promise<Answer<null>> {
  const r = await answerOf(await removeNote(await requireActor(), numeric.parse(note)));
  if (r.ok) revalidatePath(`/registers/${key.parse(register)}/${numeric.parse(id)}`);
  return r;
}
export async function removeRecordAction(
  register: string,
  id: string,
  seen: string,
  clears: boolean,
): Promise<Answer<null>> {
  const r = await answerOf(
    await removeRecord(
      await requireActor(),
      key.parse(register),
      numeric.parse(id),
      numeric.parse(seen),
      z.boolean().parse(clears),
    ),
  );
  if (r.ok) revalidatePath(`/registers/${register}`, "layout");
  return r;
}
export async function putBackAction(register: string, change: string): Promise<Answer<{ id: string }>> {
  const r = await answerOf(await putBack(await requireActor(), key.parse(register), numeric.parse(change)));
  if (r.ok) revalidatePath(`/registers/${register}`, "layout");
  return r;
}

/** What came of changing several records, those that were refused with why. */
export interface ManyAnswer {
  changed: number;
  same: number;
  refused: { id: string; sentence: string }[];
}
const told = async (register: string, r: ManyChanged): Promise<ManyAnswer> => ({
  changed: r.changed,
  same: r.same,
  refused: await Promise.all(
    r.refused.slice(0, 100).map(async ({ id, why }) => ({
      id,
      sentence: await sentenceOf({ code: "record-refused", data: { register, why } }),
    })),
  ),
});
export async function changeRecordsAction(
  register: string,
  which: string[],
  column: string,
  to: string | boolean | null,
): Promise<Answer<ManyAnswer>> {
  const r = await changeRecords(
    await requireActor(),
    key.parse(register),
    ids.parse(which),
    key.parse(column),
    value.parse(to),
  );
  if (!r.ok) return answerOf(r);
  revalidatePath(`/registers/${register}`, "layout");
  return { ok: true, value: await told(register, r.value) };
}
export async function removeRecordsAction(register: string, which: string[]): Promise<Answer<ManyAnswer>> {
  const r = await removeRecords(await requireActor(), key.parse(register), ids.parse(which));
  if (!r.ok) return answerOf(r);
  revalidatePath(`/registers/${register}`, "layout");
  return { ok: true, value: await told(register, r.value) };
}

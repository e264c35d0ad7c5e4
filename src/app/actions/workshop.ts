"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { edit, formData, formQuestion, notTooDeep } from "@/contracts";
import type { FormAnswer, FormData as Values, FormQuestion, SampleMail } from "@/core/form";
import type { StartPreview } from "@/core/records";
import type { Edit, ProcessDefinition } from "@/core/route";
import {
  askAtSample,
  beginProcedure,
  beginProcess,
  closeProcess,
  copyProcess,
  deleteProcess,
  draftSince,
  editDraft,
  keepLadder,
  keepLetter,
  keepTemplate,
  keepSheetWidths,
  makeFirstTemplate,
  mailsToTry,
  sampleOfMail,
  type MailToTry,
  openProcess,
  pauseStart,
  releasedDefinition,
  releaseDraft,
  removeKeptLadder,
  removeKeptLetter,
  removeKeptTemplate,
  takeTemplate,
  sampleValues,
  startPreview,
  stepPreview,
  templateVersions,
  usesOf,
  type BroughtTemplate,
  type DraftEdit,
  type Outcome,
  type Preview,
  type SampleValues,
  type TemplateVersion,
  type UsedBy,
} from "@/services";
import { answerOf, formAnswer, requireActor, type Answer } from "@/web";

const key = z.string().max(60);

export const keepSheetWidthsAction = async (
  widths: Readonly<Record<string, number>>,
): Promise<Answer<null>> =>
  answerOf(
    await keepSheetWidths(await requireActor(), z.record(z.string().max(40), z.number()).parse(widths)),
  );

export async function pauseStartAction(
  process: string,
  start: string,
  keeps: boolean | null,
): Promise<Answer<null>> {
  return answerOf(
    await pauseStart(
      await requireActor(),
      key.parse(process),
      key.parse(start),
      z.boolean().nullable().parse(keeps),
    ),
  );
}

export async function editDraftAction(
  process: string,
  base: number,
  edits: Edit[],
): Promise<Answer<{ version: number; theirs: DraftEdit[] }>> {
  const actor = await requireActor();
  const parsed = notTooDeep(z.array(edit).max(500)).safeParse(edits);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return {
      ok: false,
      sentence: `That change cannot be kept: ${issue?.path.slice(1).join(" › ")}: ${issue?.message}`,
      problems: [],
      code: "invalid",
    };
  }
  return answerOf(await editDraft(actor, key.parse(process), z.int().parse(base), parsed.data));
}

/** What others did to a draft since a version. */
export async function draftSinceAction(
  process: string,
  version: number,
): Promise<Answer<{ edits: DraftEdit[] | null }>> {
  return answerOf(await draftSince(await requireActor(), key.parse(process), z.int().parse(version)));
}

/** The values after each step, for a sample of the draft as it is kept. */
export async function sampleValuesAction(
  process: string,
  sample: string,
): Promise<Answer<SampleValues | null>> {
  return answerOf(await sampleValues(await requireActor(), key.parse(process), key.parse(sample)));
}

/** Which of today's records a start of the draft as it is kept would take. */
export async function startPreviewAction(
  process: string,
  start: string,
): Promise<Answer<StartPreview | null>> {
  return answerOf(await startPreview(await requireActor(), key.parse(process), key.parse(start)));
}

/** What a step would find for a sample of the draft as it is kept. */
export async function stepPreviewAction(
  process: string,
  step: string,
  sample: string,
): Promise<Answer<Preview | null>> {
  return answerOf(
    await stepPreview(await requireActor(), key.parse(process), key.parse(step), key.parse(sample)),
  );
}

/** What the form of the draft asks over a sample. */
export async function askAtSampleAction(
  process: string,
  sample: string,
  step: string,
  data: Values,
  question: FormQuestion,
): Promise<FormAnswer> {
  const actor = await requireActor();
  const [typed, q] = [formData.parse(data), formQuestion.parse(question)];
  return formAnswer(
    await askAtSample(actor, key.parse(process), key.parse(sample), key.parse(step), typed, q),
  );
}

/** Keeps a letter of the draft for all processes. */
export async function keepLetterAction(
  process: string,
  letter: string,
): Promise<Answer<{ letter: string; version: number }>> {
  return answerOf(await keepLetter(await requireActor(), key.parse(process), key.parse(letter)));
}

export async function removeKeptLetterAction(letter: string): Promise<Answer<null>> {
  const r = await answerOf(await removeKeptLetter(await requireActor(), z.uuid().parse(letter)));
  if (r.ok) revalidatePath("/office/letters");
  return r;
}

/** The same of a ladder. */
export async function keepLadderAction(
  process: string,
  ladder: string,
): Promise<Answer<{ ladder: string; version: number }>> {
  return answerOf(await keepLadder(await requireActor(), key.parse(process), key.parse(ladder)));
}

export async function removeKeptLadderAction(ladder: string): Promise<Answer<null>> {
  const r = await answerOf(await removeKeptLadder(await requireActor(), z.uuid().parse(ladder)));
  if (r.ok) revalidatePath("/office/letters");
  return r;
}

/** Keeps a template of the draft for all processes. */
export async function keepTemplateAction(
  process: string,
  document: string,
): Promise<Answer<{ template: string; version: number }>> {
  return answerOf(await keepTemplate(await requireActor(), key.parse(process), key.parse(document)));
}

/** Brings one kept for all into the process. */
export async function takeTemplateAction(process: string, document: string, kept: string) {
  return answerOf(
    await takeTemplate(await requireActor(), key.parse(process), key.parse(document), z.uuid().parse(kept)),
  );
}

export async function removeKeptTemplateAction(template: string): Promise<Answer<null>> {
  const r = await answerOf(await removeKeptTemplate(await requireActor(), z.uuid().parse(template)));
  if (r.ok) revalidatePath("/office/letters");
  return r;
}

export async function releaseAction(
  process: string,
  version: string,
  note: string,
): Promise<Answer<{ version: string }>> {
  const r = await answerOf(
    await releaseDraft(
      await requireActor(),
      key.parse(process),
      z.string().max(30).parse(version),
      z.string().max(2000).parse(note),
    ),
  );
  if (r.ok) revalidatePath(`/workshop/${process}`, "layout");
  return r;
}

export async function newProcessAction(name: string, prefix: string): Promise<Answer<{ key: string }>> {
  const actor = await requireActor();
  return answerOf(
    await beginProcess(actor, z.string().max(200).parse(name), z.string().max(30).parse(prefix)),
  );
}

export async function newProcedureAction(called: string): Promise<Answer<{ key: string }>> {
  return answerOf(await beginProcedure(await requireActor(), name.parse(called)));
}

const name = z.string().max(200);
const releaseId = z.string().regex(/^\d{1,18}$/);

export async function copyProcessAction(
  from: string,
  called: string,
  prefix: string,
): Promise<Answer<{ key: string }>> {
  return answerOf(
    await copyProcess(await requireActor(), key.parse(from), name.parse(called), name.parse(prefix)),
  );
}
export async function makeFirstTemplateAction(
  process: string,
  document: string,
): Promise<Answer<BroughtTemplate>> {
  return answerOf(await makeFirstTemplate(await requireActor(), key.parse(process), key.parse(document)));
}
export async function templateVersionsAction(
  process: string,
  document: string,
): Promise<Answer<TemplateVersion[]>> {
  return answerOf(await templateVersions(await requireActor(), key.parse(process), key.parse(document)));
}
export async function closeProcessAction(process: string): Promise<Answer<null>> {
  return nothing(await closeProcess(await requireActor(), key.parse(process)));
}
export async function openProcessAction(process: string): Promise<Answer<{ version: string }>> {
  return answerOf(await openProcess(await requireActor(), key.parse(process)));
}
export async function deleteProcessAction(process: string): Promise<Answer<null>> {
  return nothing(await deleteProcess(await requireActor(), key.parse(process)));
}
export async function releasedDefinitionAction(
  process: string,
  release: string,
): Promise<Answer<ProcessDefinition>> {
  return answerOf(
    await releasedDefinition(await requireActor(), key.parse(process), releaseId.parse(release)),
  );
}
const nothing = (r: Outcome<void>): Promise<Answer<null>> => answerOf(r.ok ? { ok: true, value: null } : r);

/** Where processes name a register, a duty, a group or a calendar. */
export async function usesOfAction(
  of: "register" | "duty" | "group" | "calendar",
  named: string,
): Promise<UsedBy[]> {
  const what = z.enum(["register", "duty", "group", "calendar"]).parse(of);
  return usesOf(await requireActor(), what, z.string().max(200).parse(named));
}

export const mailsToTryAction = async (process: string): Promise<Answer<MailToTry[]>> =>
  answerOf(await mailsToTry(await requireActor(), key.parse(process)));

export const sampleOfMailAction = async (process: string, id: string): Promise<Answer<SampleMail>> =>
  answerOf(await sampleOfMail(await requireActor(), key.parse(process), z.string().max(20).parse(id)));

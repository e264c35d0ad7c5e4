"use server";
import { Temporal } from "temporal-polyfill";
import { z } from "zod";
import { formData, formQuestion } from "@/contracts";
import {
  MAX_REASON,
  type FormAnswer,
  type FormData as Values,
  type FormQuestion,
  type Passed,
  type StoredRecord,
} from "@/core/form";
import {
  act,
  answerSeveral,
  askAtStart,
  askAtTask,
  dropAskDraft,
  find,
  findPeople,
  lookUp,
  moveClock,
  noticesOf,
  readNotices,
  saveAskDraft,
  saveTaskDraft,
  startRequest,
  type AnsweredSeveral,
  type Found,
  type FoundPerson,
  type Notice,
} from "@/services";
import { answerOf, formAnswer, isDemo, requireActor, type Answer } from "@/web";

const short = z.string().max(200);
const note = z.string().max(4000);
const numeric = z.string().regex(/^\d{1,18}$/);

/** Why checks are gone on past, by what tells them apart. */
const reasons = z.record(z.string().max(300), z.string().max(MAX_REASON));
const pressSchema = z.strictObject({ start: short, record: numeric }).nullable();
type Press = { start: string; record: string };

export async function startAction(
  process: string,
  draftId: string,
  data: Values,
  press: Press | null = null,
  passed: Passed = {},
): Promise<Answer<{ number: string }>> {
  const actor = await requireActor();
  const result = await startRequest(
    actor,
    short.parse(process),
    formData.parse(data),
    z.uuid().parse(draftId),
    undefined,
    null,
    pressSchema.parse(press),
    reasons.parse(passed),
  );
  return answerOf(result.ok ? { ok: true, value: { number: result.value.number } } : result);
}
/** What the form of a process asks while it is filled in. */
export async function askAtStartAction(
  process: string,
  press: Press | null,
  data: Values,
  question: FormQuestion,
): Promise<FormAnswer> {
  const actor = await requireActor();
  const [typed, q] = [formData.parse(data), formQuestion.parse(question)];
  return formAnswer(await askAtStart(actor, short.parse(process), pressSchema.parse(press), typed, q));
}
/** The same of a task. */
export async function askAtTaskAction(
  number: string,
  task: string,
  data: Values,
  question: FormQuestion,
): Promise<FormAnswer> {
  const actor = await requireActor();
  const [typed, q] = [formData.parse(data), formQuestion.parse(question)];
  return formAnswer(await askAtTask(actor, short.parse(number), short.parse(task), typed, q));
}
export async function saveAskDraftAction(
  process: string,
  draftId: string,
  data: Values,
  press: Press | null = null,
): Promise<Answer<{ savedAt: number }>> {
  return answerOf(
    await saveAskDraft(
      await requireActor(),
      short.parse(process),
      z.uuid().parse(draftId),
      formData.parse(data),
      pressSchema.parse(press),
    ),
  );
}
export async function dropAskDraftAction(draftId: string): Promise<void> {
  await dropAskDraft(await requireActor(), z.uuid().parse(draftId));
}
export async function saveTaskDraftAction(
  number: string,
  task: string,
  draftId: string,
  data: Values,
  base: Values,
  said: string,
): Promise<Answer<{ savedAt: number }>> {
  return answerOf(
    await saveTaskDraft(
      await requireActor(),
      short.parse(number),
      short.parse(task),
      z.uuid().parse(draftId),
      formData.parse(data),
      formData.parse(base),
      note.parse(said),
    ),
  );
}

/** What values that are read anew came to when they were looked at, by path. */
const sawAnew = z.record(z.string().max(300), z.union([z.string().max(20_000), z.boolean(), z.null()]));
const command = z.discriminatedUnion("type", [
  z.object({
    type: z.literal("answer"),
    task: short,
    answer: short,
    note,
    data: formData,
    seen: z.int().min(0),
    anew: sawAnew.optional(),
    passed: reasons.optional(),
  }),
  z.object({ type: z.literal("take"), task: short }),
  z.object({ type: z.literal("put back"), task: short }),
  z.object({ type: z.literal("take back"), task: short }),
  z.object({ type: z.literal("hand over"), task: short, to: short, note, back: z.boolean().optional() }),
  z.object({ type: z.literal("ask"), task: short, to: short.nullable(), note }),
  z.object({ type: z.literal("reassign"), task: short, to: short, note }),
  z.object({ type: z.literal("withdraw"), note }),
  z.object({ type: z.literal("cancel"), note }),
  z.object({ type: z.literal("retry"), token: short }),
  z.object({ type: z.literal("skip"), token: short, way: short.nullable(), note }),
  z.object({ type: z.literal("name"), token: short, to: short, note }),
  z.object({ type: z.literal("remind"), task: short, note }),
  /** `until` as a clock on the wall of whoever gives the limit shows it. */
  z.object({
    type: z.literal("change limit"),
    task: short,
    until: z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/),
    note,
  }),
]);
export type CommandInput = z.infer<typeof command>;

const momentIn = (zone: string, local: string): number =>
  Temporal.PlainDateTime.from(local).toZonedDateTime(zone).epochMilliseconds;

/** @returns why the request is stuck after it, in sentences; none where it went on */
export async function actAction(number: string, input: CommandInput): Promise<Answer<{ stuck: string[] }>> {
  const actor = await requireActor();
  const said = command.parse(input);
  const result = await act(
    actor,
    short.parse(number),
    said.type === "change limit"
      ? { type: said.type, task: said.task, due: momentIn(actor.zone, said.until), note: said.note }
      : said,
  );
  return answerOf(result.ok ? { ok: true, value: { stuck: result.value.stuck } } : result);
}

/** Answers several tasks of one step in the same way; those that are refused are told one by one. */
export async function answerSeveralAction(
  tasks: readonly { number: string; task: string }[],
  answer: string,
  said: string,
): Promise<Answer<AnsweredSeveral>> {
  return answerOf(
    await answerSeveral(
      await requireActor(),
      z
        .array(z.strictObject({ number: short, task: short }))
        .max(500)
        .parse(tasks),
      short.parse(answer),
      note.parse(said),
    ),
  );
}

export async function lookUpAction(
  register: string,
  search: string,
): Promise<{ id: string; title: string; record: StoredRecord }[]> {
  const found = await lookUp(await requireActor(), short.parse(register), short.parse(search));
  return found.ok ? found.value : [];
}

export async function findPeopleAction(text: string): Promise<FoundPerson[]> {
  return findPeople(await requireActor(), short.parse(text.slice(0, 200)));
}

export async function findAction(text: string): Promise<Found[]> {
  return find(await requireActor(), short.parse(text));
}

export async function moveClockAction(byMs: number): Promise<Answer<{ now: number }>> {
  return answerOf(await moveClock(await requireActor(), z.number().parse(byMs), isDemo()));
}
export async function noticesAction(): Promise<Notice[]> {
  return noticesOf(await requireActor());
}
export async function readNoticesAction(upTo: string): Promise<void> {
  await readNotices(await requireActor(), numeric.parse(upTo));
}

"use server";
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
  askAtOpen,
  askFollowed,
  keepChanged,
  lookUp,
  openForm,
  passerBy,
  sayFollowed,
  sendAddressCode,
  sendChanged,
  sendOpenForm,
  visitorBy,
  withdrawFollowed,
  writeFollowed,
  type OpenPage,
  type OpenSending,
} from "@/services";
import { answerOf, formAnswer, type Answer } from "@/web";

const short = z.string().max(200);
const token = z.string().max(100);
const passed = z.record(z.string().max(300), z.string().max(MAX_REASON));
const sending = z.strictObject({
  name: z.string().max(1000),
  email: z.string().max(1000),
  code: z.string().max(100),
  trap: z.string().max(10_000),
  data: formData,
  passed,
});

const NO_VISIT: Answer<never> = {
  ok: false,
  code: "invalid",
  sentence: "This page has to be loaded again before it can be sent. What you typed is kept in this browser.",
  problems: [],
};

export async function sendOpenAction(
  process: string,
  visit: string,
  sent: OpenSending,
): Promise<Answer<{ number: string; token: string | null }>> {
  const actor = await visitorBy(token.parse(visit));
  if (!actor) return NO_VISIT;
  const r = await sendOpenForm(actor, short.parse(process), sending.parse(sent));
  return answerOf(r.ok ? { ok: true, value: { number: r.value.number, token: r.value.token } } : r);
}

/** The form over what somebody’s browser has kept of it. */
export async function openAgainAction(
  process: string,
  visit: string,
  data: Values,
): Promise<Answer<OpenPage["form"]>> {
  const actor = await visitorBy(token.parse(visit));
  if (!actor) return NO_VISIT;
  const r = await openForm(actor, short.parse(process), {}, formData.parse(data));
  return answerOf(r.ok ? { ok: true, value: r.value.form } : r);
}

export async function sendCodeAction(
  process: string,
  visit: string,
  email: string,
): Promise<Answer<{ minutes: number }>> {
  const actor = await visitorBy(token.parse(visit));
  return actor
    ? answerOf(await sendAddressCode(actor, short.parse(process), z.string().max(1000).parse(email)))
    : NO_VISIT;
}

/** Records that keepers opened to people outside. */
export async function openLookUpAction(
  register: string,
  search: string,
): Promise<{ id: string; title: string; record: StoredRecord }[]> {
  const found = await lookUp(await passerBy(), short.parse(register), short.parse(search));
  return found.ok ? found.value : [];
}

/** What a public form asks while it is filled in. */
export async function askAtOpenAction(
  process: string,
  data: Values,
  question: FormQuestion,
): Promise<FormAnswer> {
  const [typed, q] = [formData.parse(data), formQuestion.parse(question)];
  return formAnswer(await askAtOpen(await passerBy(), short.parse(process), typed, q));
}
/** The same of changes. */
export async function askFollowedAction(
  link: string,
  task: string,
  data: Values,
  question: FormQuestion,
): Promise<FormAnswer> {
  const [typed, q] = [formData.parse(data), formQuestion.parse(question)];
  return formAnswer(await askFollowed(token.parse(link), short.parse(task), typed, q));
}

export async function sendChangedAction(
  link: string,
  task: string,
  data: Values,
  seen: number,
  reasons: Passed,
): Promise<Answer<{ number: string }>> {
  return answerOf(
    await sendChanged(token.parse(link), {
      task: short.parse(task),
      data: formData.parse(data),
      seen: z.number().int().parse(seen),
      passed: passed.parse(reasons),
    }),
  );
}

export async function keepChangedAction(
  link: string,
  task: string,
  draftId: string,
  data: Values,
  base: Values,
  note = "",
): Promise<Answer<{ savedAt: number }>> {
  return answerOf(
    await keepChanged(
      token.parse(link),
      short.parse(task),
      z.uuid().parse(draftId),
      formData.parse(data),
      formData.parse(base),
      z.string().max(4000).parse(note),
    ),
  );
}

/** What somebody outside says to what they were asked. */
export const sayFollowedAction = async (
  link: string,
  task: string,
  said: string,
): Promise<Answer<{ number: string }>> =>
  answerOf(await sayFollowed(token.parse(link), short.parse(task), z.string().max(4000).parse(said)));

export const withdrawFollowedAction = async (
  link: string,
  note: string,
): Promise<Answer<{ number: string }>> =>
  answerOf(await withdrawFollowed(token.parse(link), z.string().max(4000).parse(note)));

export const writeFollowedAction = async (
  link: string,
  letter: string,
  key: string,
  text: string,
): Promise<Answer<{ number: string }>> =>
  answerOf(
    await writeFollowed(
      token.parse(link),
      z.string().max(20).parse(letter),
      z.uuid().parse(key),
      z.string().max(40_000).parse(text),
    ),
  );

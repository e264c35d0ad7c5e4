import { answersOf, Turn, type RequestEvent, type RequestState, type Task } from "@/core/engine";
import type { AccessOf, FormData } from "@/core/form";
import { flatFields } from "@/core/form";
import { readOnly, START, widest } from "@/core/process";
import { nextInWords, pathOf, stuckSentence, trailLine, type PathStop, type TrailLine } from "@/core/words";
import { at, formDrafts, getPool, processes, requests, type Db } from "@/db";
import { randomUUID } from "node:crypto";
import type { Actor } from "./actor";
import { nowMs } from "./clock";
import { loadDirectory, personName, type Directory } from "./directory";
import { engineFacts, factsData } from "./facts";
import { Failed, outcome, type Outcome } from "./failure";
import { formPage, type FormPage } from "./formPage";
import { can } from "./policy";
import { releaseFor } from "./releases";

export interface WaitingFor {
  task: string;
  step: string;
  people: { name: string; coversFor: string | null }[];
  due: number | null;
  openedAt: number;
  next: { answer: string; then: string }[];
}

export interface RequestView {
  number: string;
  title: string;
  process: { key: string; name: string; version: string };
  requester: { id: string; name: string };
  status: RequestState["status"];
  result: RequestState["result"];
  startedAt: number;
  endedAt: number | null;
  form: FormPage;
  trail: TrailLine[];
  path: PathStop[];
  waiting: WaitingFor[];
  stuck: { token: string; sentence: string }[];
  mayWithdraw: boolean;
  mayWatch: boolean;
  /** A task of this person's own, to go and answer. */
  myTask: string | null;
  now: number;
}

interface Loaded {
  db: Db;
  d: Directory;
  row: requests.RequestRow;
  now: number;
  owner: boolean;
  access: AccessOf;
}

/** Loads a request for someone, or says it is not there: what one may not see does not exist. */
export async function loadRequest(
  actor: Actor,
  by: { id: string } | { number: string },
): Promise<Loaded & { release: Awaited<ReturnType<typeof releaseFor>> }> {
  const db = getPool();
  const row = await ("id" in by ? requests.requestById(db, by.id) : requests.requestByNumber(db, by.number));
  const d = await loadDirectory(db);
  const steps = row ? await requests.tookPart(db, row.id, actor.id) : [];
  const owner = row ? await requests.isOwner(db, row.process_key, actor.id) : false;
  if (
    !row ||
    !can(actor, { action: "see request", requester: row.requester_id, tookPart: steps.length > 0, owner })
  )
    throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
  const release = await releaseFor(db, d, row.release_id);
  const accesses = [
    ...(row.requester_id === actor.id ? [release.access(START)] : []),
    ...steps.map((s) => release.access(s)),
    // Owners look after the process, not the contents: they see what everybody at some step of theirs would.
    ...(owner ? [release.access("watch")] : []),
  ];
  return { db, d, row, now: await nowMs(db), owner, release, access: readOnly(widest(accesses)) };
}

export function requestView(actor: Actor, number: string): Promise<Outcome<RequestView>> {
  return outcome(async () => {
    const { db, d, row, now, owner, release, access } = await loadRequest(actor, { number });
    const events = await requests.eventsOf(db, row.id);
    const state = row.state;
    const name = (id: string) => personName(d, id);
    const stepName = (id: string) => release.places.get(id)?.step.name ?? id;
    const facts = engineFacts(
      d,
      await factsData(db, d, release.definition, { request: row.id, by: [] }, state.data),
      now,
      actor.zone,
    );
    const extra = new Turn(release, state, facts, null).extraNames();
    const version = (await processes.releaseById(db, row.release_id))!.version;
    const open = openTasks(state);
    return {
      number: row.number,
      title: row.title,
      process: { key: row.process_key, name: release.definition.name, version },
      requester: { id: row.requester_id, name: name(row.requester_id) },
      status: state.status,
      result: state.result,
      startedAt: row.started_at,
      endedAt: row.ended_at,
      form: await formPage(db, d, release, state.data, access, {
        files: { request: row.id, by: [] },
        requester: row.requester_id,
        number: row.number,
        extra,
        at: now,
        zone: actor.zone,
      }),
      trail: trailFor(events, release.definition.fields, access, {
        person: name,
        step: stepName,
        time: timeIn(actor.zone),
      }),
      path: pathOf(release, state, events),
      waiting: open.map((t) => ({
        task: t.id,
        step: t.purpose === "changes" ? `${stepName(t.step)}: changes` : stepName(t.step),
        people: t.candidates
          .filter((c) => t.holder === null || c.person === t.holder)
          .map((c) => ({ name: name(c.person), coversFor: c.for ? name(c.for) : null })),
        due: t.due,
        openedAt: t.openedAt,
        next:
          t.purpose === "changes"
            ? [{ answer: "Send again", then: `then ${stepName(t.step)} again` }]
            : nextInWords(release, t.step),
      })),
      stuck: state.stuck.map((s) => ({ token: s.token, sentence: stuckSentence(s.reason) })),
      mayWithdraw: row.requester_id === actor.id && row.ended_at === null,
      mayWatch: can(actor, { action: "watch", owner }),
      myTask:
        open.find(
          (t) =>
            t.candidates.some((c) => c.person === actor.id) && (t.holder === null || t.holder === actor.id),
        )?.id ?? null,
      now,
    };
  });
}

const openTasks = (s: RequestState): Task[] =>
  Object.values(s.tasks).filter((t) => t.status === "open" || t.status === "taken");

export const timeIn =
  (zone: string) =>
  (ms: number): string =>
    new Intl.DateTimeFormat("en-IE", {
      weekday: "short",
      day: "numeric",
      month: "short",
      hour: "2-digit",
      minute: "2-digit",
      hour12: false,
      timeZone: zone,
    }).format(ms);

/** The trail without what reads fields hidden from this person. */
function trailFor(
  events: readonly RequestEvent[],
  fields: Parameters<typeof flatFields>[0],
  access: AccessOf,
  names: Parameters<typeof trailLine>[1],
): TrailLine[] {
  const hidden = new Set(
    flatFields(fields)
      .filter((f) => access(f.id) === "hide")
      .map((f) => f.name),
  );
  return events.flatMap((e) => {
    const line = trailLine(e, names);
    if (!line) return [];
    return [{ ...line, why: line.why.filter((c) => !c.reads.some((r) => hidden.has(r))) }];
  });
}

export interface TaskView {
  request: RequestView;
  task: {
    id: string;
    step: string;
    number: string;
    purpose: Task["purpose"];
    due: number | null;
    openedAt: number;
    shared: boolean;
    taken: boolean;
    coversFor: string | null;
  };
  answers: {
    id: string;
    label: string;
    tone: "agree" | "refuse" | "plain";
    note: boolean;
    returns: boolean;
    then: string;
  }[];
  form: FormPage;
  note: string;
  draftId: string;
  colleagues: { id: string; name: string; jobTitle: string }[];
}

/** One task of this person's, with the form as their step allows it and whatever they had typed already. */
export function taskView(actor: Actor, number: string, taskId: string): Promise<Outcome<TaskView>> {
  return outcome(async () => {
    const view = await requestView(actor, number);
    if (!view.ok) throw new Failed(view.failure);
    const { db, d, row, now, release } = await loadRequest(actor, { number });
    const task = row.state.tasks[taskId];
    if (!task) throw new Failed({ code: "not-found", data: { what: "task", id: `${number}/${taskId}` } });
    const mine = task.candidates.find((c) => c.person === actor.id);
    if (task.status === "answered" || task.status === "closed") {
      const other = Object.values(row.state.tasks).find(
        (t) => t.visit === task.visit && t.status === "answered",
      );
      throw new Failed({
        code: "refused",
        data: {
          code: "already-answered",
          data: { by: other?.by ?? null, answer: other?.answer ?? null, at: other?.endedAt ?? null },
        },
      });
    }
    if (!mine) throw new Failed({ code: "refused", data: { code: "not-yours", data: { task: taskId } } });
    if (task.holder !== null && task.holder !== actor.id)
      throw new Failed({ code: "refused", data: { code: "taken-by-other", data: { by: task.holder } } });
    const draft = await formDrafts.taskDraft(db, actor.id, row.id, taskId);
    const { "#note": note, ...typed } = (draft?.data ?? {}) as FormData;
    const access = release.access(task.purpose === "changes" ? START : task.step);
    const editable = Object.fromEntries(Object.entries(typed).filter(([id]) => access(id) === "edit"));
    const data = { ...row.state.data, ...editable };
    // What was added for this answer is not sent yet.
    const files = { request: row.id, by: [actor.id] };
    const facts = engineFacts(d, await factsData(db, d, release.definition, files, data), now, actor.zone);
    const extra = new Turn(release, row.state, facts, null).extraNames();
    const next = task.purpose === "changes" ? [] : nextInWords(release, task.step);
    const form = await formPage(db, d, release, data, access, {
      files,
      requester: row.requester_id,
      number,
      extra,
      at: now,
      zone: actor.zone,
    });
    return {
      request: view.value,
      task: {
        id: taskId,
        step: release.places.get(task.step)?.step.name ?? task.step,
        number: release.places.get(task.step)?.number ?? "",
        purpose: task.purpose,
        due: task.due,
        openedAt: task.openedAt,
        shared: task.candidates.length > 1,
        taken: task.status === "taken",
        coversFor: mine.for ? personName(d, mine.for) : null,
      },
      answers: answersOf({ release }, task).map((a) => ({
        id: a.id,
        label: a.label,
        tone: a.tone,
        note: a.note === "must",
        returns: a.returns === true,
        then: next.find((n) => n.answer === a.label)?.then ?? "then the same step again",
      })),
      form: { ...form, data: { ...form.data, ...editable } },
      note: typeof note === "string" ? note : "",
      draftId: draft?.id ?? randomUUID(),
      colleagues: [...d.people.values()]
        .filter((p) => p.active && p.id !== actor.id)
        .map((p) => ({ id: p.id, name: p.name, jobTitle: p.job_title })),
    };
  });
}

/** Keeps what somebody has typed for a task they have not answered yet. */
export function saveTaskDraft(
  actor: Actor,
  number: string,
  taskId: string,
  draftId: string,
  data: FormData,
  note: string,
): Promise<Outcome<{ savedAt: number }>> {
  return outcome(async () => {
    const { db, row, now } = await loadRequest(actor, { number });
    if (!row.state.tasks[taskId]?.candidates.some((c) => c.person === actor.id))
      throw new Failed({ code: "refused", data: { code: "not-yours", data: { task: taskId } } });
    await formDrafts.saveTaskDraft(db, {
      id: draftId,
      person: actor.id,
      request: row.id,
      task: taskId,
      data: { ...data, "#note": note },
      at: at(now)!,
    });
    return { savedAt: now };
  });
}

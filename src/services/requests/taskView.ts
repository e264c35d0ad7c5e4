import { randomUUID } from "node:crypto";
import {
  answersOf,
  backTo,
  formOf,
  isEnded,
  isOfStep,
  isOpen,
  itemOf,
  levelOf,
  outsideId,
  proceduresFrom,
  releaseAt,
  Turn,
  type CompiledRelease,
  type Level,
  type RequestState,
  type Task,
} from "@/core/engine";
import {
  colleagueOf,
  followerOf,
  hearerOf,
  rebase,
  withoutHidden,
  type AccessOf,
  type FileFacts,
  type FormData,
  type Rebased,
} from "@/core/form";
import { readOnly, START, type Limit, type Tone } from "@/core/route";
import { nextInWords } from "@/core/words";
import { stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { at, files, formDrafts, getPool } from "@/db";
import { fileFactsOf } from "../files/fileFacts";
import { nameIn } from "./nameIn";
import { personName, type Directory } from "../kernel/directory";
import { registersSeen } from "../kernel/registersSeen";
import { accessFor } from "../outside/visitor";
import { Failed } from "../kernel/failure";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { engineFacts, factsReader } from "./facts";
import { registersAtHand } from "./registersAtHand";
import { mustBeKept } from "./draftSize";
import { formPage, passedOf, signaturesOf, type FormPage } from "./formPage";
import { loadRequest, type Loaded } from "./loadRequest";
import { readerOf, viewOf, whereText, type RequestView } from "./requestView";
import type { ShownLine } from "./trail";

export interface TaskView {
  request: Omit<RequestView, "form">;
  task: {
    id: string;
    step: string;
    /** The round it is of, in words; empty for none. */
    about: string;
    number: string;
    purpose: Task["purpose"];
    due: number | null;
    openedAt: number;
    shared: boolean;
    taken: boolean;
    coversFor: string | null;
    /** While what its limit stands still; null for nothing, or where there is no limit now. */
    stands: Limit["still"] | null;
  };
  /** What is signed with the form: the file whose pages are shown; null for nothing. */
  paper: FileFacts | null;
  /** Since when its limit stands still; null where it does not. */
  still: number | null;
  /** What was asked beside it and its colleagues' tasks, oldest first. */
  questions: AskedBeside[];
  /** What its reader is asked themselves, and until when whoever asks has; null for a task of the route. */
  asked: { by: string; text: string; until: number | null } | null;
  /** What whoever had it for a while would answer; null where nobody did. */
  proposed: { by: string; label: string; note: string } | null;
  /** Who has it again once it is answered here, and answers then; null where what is answered counts. */
  backTo: string | null;
  /** Who asked for the request, where they can be asked something; null for nobody, or the reader. */
  asker: { id: string; name: string } | null;
  /** Whether whoever its notes mention is told, and may look. */
  mentions: boolean;
  /** Who asked for changes, and for which. */
  wants: { by: string | null; note: string } | null;
  answers: {
    id: string;
    label: string;
    tone: Tone;
    note: boolean;
    returns: boolean;
    then: string;
  }[];
  /** With whatever this person had typed already. */
  /** `before` is what is kept, without what was typed. */
  form: FormPage & { before: FormData };
  /** The number of the last event that what is kept (`form.before`) stands after. */
  seen: number;
  /** What changed since they typed, and where both did. */
  meanwhile: Pick<Rebased, "changed" | "clashes">;
  note: string;
  draftId: string;
  /** When what they typed before was kept; null where nothing was. */
  draftAt: number | null;
  /** What it was asked for has ended, the request or the procedure: an answer changes nothing of it. */
  over: "request" | "procedure" | null;
  /** For a task of a procedure: the form of what handed to it, as far as the step that did shows it. */
  caller: { name: string; form: FormPage } | null;
}

/** One task of this person's, with the form as their step allows it and whatever they had typed already. */
export const taskView = defineUseCase(
  ["see request", "watch", "write letter"],
  async (c, number: string, taskId: string, most: number = Infinity): Promise<TaskView> => {
    const loaded = await loadRequest(c, { number }, true);
    const { db, d, row, now } = loaded;
    const { level, task, release, state } = taskAt(loaded, taskId);
    const candidate = task.candidates.find((x) => x.person === c.actor.id);
    if (task.status === "answered" || task.status === "closed") {
      const other = Object.values(state.tasks).find((t) => t.visit === task.visit && t.status === "answered");
      throw new Failed({
        code: "refused",
        data: {
          code: "already-answered",
          data: { by: other?.by ?? null, answer: other?.answer ?? null, at: other?.endedAt ?? null },
        },
      });
    }
    if (!candidate)
      throw new Failed({ code: "refused", data: { code: "not-yours", data: { task: taskId } } });
    if (task.holder !== null && task.holder !== c.actor.id)
      throw new Failed({ code: "refused", data: { code: "taken-by-other", data: { by: task.holder } } });
    const draft = await formDrafts.taskDraft(db, c.actor.id, row.id, taskId);
    const { "#note": note, "#base": before, ...typed } = (draft?.data ?? {}) as FormData;
    const formAt = formOf(task);
    const own = accessFor(c.actor, release, formAt);
    // What is answered after the end changes nothing any more.
    const ended = row.ended_at !== null || isEnded(state);
    const access = ended || task.question ? readOnly(own) : own;
    const mine = Object.fromEntries(Object.entries(typed).filter(([id]) => access(id) === "edit"));
    const fields = release.definition.fields;
    const kept = withoutHidden(fields, state.data, access);
    // Beside what was typed stands, as text, what it was typed over.
    const base = typeof before === "string" ? (JSON.parse(before) as FormData) : null;
    const over = base && rebase(fields, base, kept, { ...base, ...mine });
    const editable = over
      ? Object.fromEntries(Object.entries(over.data).filter(([id]) => access(id) === "edit"))
      : mine;
    const data = { ...state.data, ...editable };
    // What was added for this answer is not sent yet.
    const shapes = registersAtHand(d, release, loaded.procedures);
    const reader = factsReader(db, d, release.definition, { request: row.id, by: [c.actor.id] }, shapes);
    const outer = level.calls.length === 0 ? reader : readerOf(loaded);
    const request = await viewOf(c, loaded, outer, most);
    const facts = engineFacts(d, await reader.load([], data), now, c.actor.zone);
    const turn = new Turn(release, state, facts, null);
    const extra = turn.extraNames();
    const again = backTo(turn, task);
    const name = nameIn(d, state);
    const next = isOfStep(task) ? nextInWords(release, task.step, row.state.requester) : [];
    const form = await formPage(reader, d, release, data, access, {
      requester: row.state.requester,
      number,
      extra,
      before: state.data,
      signed: signaturesOf(d, release, state, access),
      passed: passedOf(d, release, state, access, registersSeen(d, c.actor)),
      layout: release.definition.forms?.[formAt],
      ...offeredAt(state, task, access),
      at: now,
      zone: c.actor.zone,
      seen: registersSeen(d, c.actor),
      outside: c.actor.kind === "visitor",
    });
    return {
      request,
      task: {
        id: taskId,
        step: release.places.get(task.step)?.step.name ?? task.step,
        about: aboutOf(loaded, level, task),
        number: release.places.get(task.step)?.number ?? "",
        purpose: task.purpose,
        due: task.due,
        openedAt: task.openedAt,
        shared: task.candidates.length > 1,
        taken: task.status === "taken",
        coversFor: candidate.for ? name(candidate.for) : null,
        stands: standsStill(release, task),
      },
      paper: await paperOf(state, task),
      still: state.visits[task.visit]?.stopped?.since ?? null,
      questions: askedBeside(state, task, name),
      asked: askedOf(state, task, name),
      proposed: task.proposed ? { ...task.proposed, by: name(task.proposed.by) } : null,
      backTo: again ? name(again.to.person) : null,
      asker: askerOf(d, state, c.actor.id),
      mentions: loaded.release.definition.mentions === true,
      wants: task.purpose === "changes" ? wanted(state, task, name) : null,
      answers: answersOf(release, task).map((a) => ({
        id: a.id,
        label: a.label,
        tone: a.tone,
        note: a.note === "must",
        returns: a.returns === true,
        then: again
          ? `as you would answer; then ${name(again.to.person)} has it again`
          : (next.find((n) => n.answer === a.label)?.then ?? thenBeside(task)),
      })),
      form: {
        ...form,
        before: kept,
        data: { ...form.data, ...editable },
        about: rowsOf(state, task),
      },
      seen: state.seq,
      meanwhile: { changed: over?.changed ?? [], clashes: over?.clashes ?? [] },
      note: typeof note === "string" ? note : "",
      draftId: draft?.id ?? randomUUID(),
      draftAt: draft?.changed_at ?? null,
      over: overWords(row.ended_at !== null, isEnded(state)),
      caller: await callerForm(c, loaded, level, task),
    };
  },
);

export interface AskedBeside {
  task: string;
  by: string;
  to: string;
  text: string;
  at: number;
  /** Null where it is not answered yet, or never will be. */
  answer: { text: string; by: string; at: number } | null;
  waits: boolean;
}

/** What was asked beside a task and those of its colleagues. */
const askedBeside = (state: RequestState, task: Task, name: (id: string) => string): AskedBeside[] =>
  Object.values(state.tasks).flatMap((t) => {
    const { question } = t;
    if (question?.visit !== task.visit) return [];
    const answered = t.status === "answered" && t.by;
    return [
      {
        task: t.id,
        by: name(question.by),
        to: t.candidates.map((x) => name(x.person)).join(", "),
        text: question.text,
        at: t.openedAt,
        answer: answered ? { text: t.note ?? "", by: name(answered), at: t.endedAt ?? t.openedAt } : null,
        waits: isOpen(t),
      },
    ];
  });

function askedOf(state: RequestState, task: Task, name: (id: string) => string): TaskView["asked"] {
  const { question } = task;
  if (!question) return null;
  const until = state.tasks[question.of]?.due ?? null;
  return { by: name(question.by), text: question.text, until };
}

/** Whoever asked for the request, where they can be asked: at a desk of their own, or by a letter with their link. */
function askerOf(d: Directory, state: RequestState, reader: string): TaskView["asker"] {
  const follower = followerOf(state.requester);
  const hears = hearerOf(state.requester);
  if (hears && follower !== null) return { id: follower, name: hears.name };
  const id = colleagueOf(state.requester);
  const works = id !== null && d.office.people.some((p) => p.id === id && p.active);
  return works && id !== reader ? { id, name: personName(d, id) } : null;
}

function standsStill(release: CompiledRelease, task: Task): Limit["still"] | null {
  const step = release.places.get(task.step)?.step;
  const limit = step && isOfStep(task) && task.due !== null ? stepKind(KINDS, step).asks?.limit(step) : null;
  return limit?.still ?? null;
}

const thenBeside = (task: Task): string =>
  task.question ? "goes to whoever asks" : "then the same step again";

async function paperOf(state: RequestState, task: Task): Promise<FileFacts | null> {
  const paper = state.visits[task.visit]?.paper;
  const row = paper ? await files.fileById(getPool(), paper.file) : null;
  return row && fileFactsOf(row);
}

function overWords(request: boolean, procedure: boolean): TaskView["over"] {
  if (request) return "request";
  return procedure ? "procedure" : null;
}

/** What the step offers to be picked in fields that are filled in there; what is hidden is not told by its choices. */
function offeredAt(state: RequestState, task: Task, access: AccessOf): Pick<FormPage, "offers"> {
  const offers = Object.entries(state.visits[task.visit]?.offers ?? {}).filter(
    ([id]) => access(id) === "edit",
  );
  return offers.length > 0 ? { offers: Object.fromEntries(offers) } : {};
}

/** A task, in whatever procedure it stands, with the release and the values it is about. */
export function taskAt({ row, release, procedures }: Loaded, id: string) {
  const level = levelOf(row.state, id);
  const task = level && Object.hasOwn(level.state.tasks, level.id) ? level.state.tasks[level.id] : undefined;
  if (!level || !task)
    throw new Failed({ code: "not-found", data: { what: "task", id: `${row.number}/${id}` } });
  return { level, task, state: level.state, release: releaseAt(level, release, proceduresFrom(procedures)) };
}

/** What a task is about, in words: rounds and procedures around it. */
const aboutOf = ({ row, release, procedures }: Loaded, level: Level, task: Task): string =>
  whereText(row.state, level, release, proceduresFrom(procedures), task.about);

/** The form around a procedure, with the access of the step that hands to it; nothing of it is changed from there. */
async function callerForm(
  c: Call,
  loaded: Loaded,
  { calls }: Level,
  task: Task,
): Promise<TaskView["caller"]> {
  const call = calls.at(-1);
  if (!call) return null;
  const { db, d, row, now, release, procedures } = loaded;
  const around = { calls: calls.slice(0, -1) };
  const on = releaseAt(around, release, proceduresFrom(procedures));
  const state = around.calls.at(-1)?.state ?? row.state;
  const shapes = registersAtHand(d, on, procedures);
  const reader = factsReader(db, d, on.definition, { request: row.id, by: [] }, shapes);
  const facts = engineFacts(d, await reader.load([], state.data), now, c.actor.zone);
  // Whoever is asked as who made the request sees no more around it than they sent.
  const own = on.access(formOf(task) === START ? START : call.step);
  const form = await formPage(reader, d, on, state.data, readOnly(own), {
    requester: row.state.requester,
    number: row.number,
    extra: new Turn(on, state, facts, null).extraNames(),
    signed: signaturesOf(d, on, state, own),
    passed: passedOf(d, on, state, own, registersSeen(d, c.actor)),
    at: now,
    zone: c.actor.zone,
    seen: registersSeen(d, c.actor),
    outside: c.actor.kind === "visitor",
  });
  return { name: on.definition.name, form };
}

/** The lines of the form that a task is about, as "objects/3". */
const rowsOf = (s: RequestState, task: Task): string[] =>
  itemOf(s, task.scope).map(({ lines, row }) => `${lines}/${row}`);

/** The answer by which a step was sent back last before changes were asked for. */
function wanted(
  state: RequestState,
  of: Task,
  name: (id: string) => string,
): { by: string | null; note: string } | null {
  const asked = Object.values(state.tasks)
    .filter((t) => t.step === of.step && t.scope === of.scope && isOfStep(t) && t.status === "answered")
    .filter((t) => (t.endedAt ?? 0) <= of.openedAt)
    .sort((a, b) => (b.endedAt ?? 0) - (a.endedAt ?? 0));
  const last = asked.find((t) => t.endedAt === asked[0]!.endedAt && t.note) ?? asked[0];
  return last ? { by: last.by ? name(last.by) : null, note: last.note ?? "" } : null;
}

export interface LateTask {
  number: string;
  title: string;
  process: string;
  step: string;
  about: string;
  /** What became of it, in order. */
  lines: ShownLine[];
}

/** What became of a task that does not wait for its reader any more, for somebody who may see the request. */
export const lateTask = defineUseCase(
  ["see request", "watch", "write letter"],
  async (c, number: string, taskId: string): Promise<LateTask> => {
    const loaded = await loadRequest(c, { number }, true);
    const { row } = loaded;
    const { level, task, release, state } = taskAt(loaded, taskId);
    const reader = readerOf(loaded);
    const { trail } = await viewOf(c, loaded, reader, Infinity);
    const about = new Set(trail.filter((l) => l.task === taskId).map((l) => l.seq));
    // Where a colleague's answer ended it, that says why.
    const beside = Object.values(state.tasks).filter((t) => t.visit === task.visit && t.by);
    for (const l of trail)
      if (beside.some((t) => outsideId(level, t.id) === l.task && t.endedAt === l.at)) about.add(l.seq);
    return {
      number: row.number,
      title: row.title,
      process: loaded.release.definition.name,
      step: release.places.get(task.step)?.step.name ?? task.step,
      about: aboutOf(loaded, level, task),
      lines: trail.filter((l) => about.has(l.seq)),
    };
  },
);

/** Keeps what somebody has typed for a task they have not answered yet. */
export const saveTaskDraft = defineUseCase(
  ["see request"],
  async (
    c,
    number: string,
    taskId: string,
    draftId: string,
    data: FormData,
    base: FormData,
    note: string,
  ): Promise<{ savedAt: number }> => {
    const { db, row, now } = await loadRequest(c, { number });
    const level = levelOf(row.state, taskId);
    if (!level?.state.tasks[level.id]?.candidates.some((x) => x.person === c.actor.id))
      throw new Failed({ code: "refused", data: { code: "not-yours", data: { task: taskId } } });
    mustBeKept(data);
    await formDrafts.saveTaskDraft(db, {
      id: draftId,
      person: c.actor.id,
      request: row.id,
      task: taskId,
      data: { ...data, "#note": note, "#base": JSON.stringify(base) },
      at: at(now)!,
    });
    return { savedAt: now };
  },
);

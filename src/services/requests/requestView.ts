import { Turn, type RequestEvent, type RequestState, type Task } from "@/core/engine";
import { hiddenReads, type AccessOf, type Field } from "@/core/form";
import { nextInWords, pathOf, stuckSentence, trailLine, type PathStop, type TrailLine } from "@/core/words";
import { processes, requests } from "@/db";
import { KINDS } from "@/kinds";
import { colleaguesOf, personName } from "../kernel/directory";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { engineFacts, factsData } from "./facts";
import { formPage, type FormPage } from "./formPage";
import { loadRequest, type Loaded } from "./loadRequest";

export interface WaitingFor {
  task: string;
  step: string;
  people: { name: string; coversFor: string | null }[];
  due: number | null;
  openedAt: number;
  next: { answer: string; then: string }[];
}

/** A line of the trail as it is shown: who by name, and the key of theirs by which a program did it. */
export interface ShownLine extends TrailLine {
  byName: string | null;
  key: string | null;
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
  trail: ShownLine[];
  path: PathStop[];
  waiting: WaitingFor[];
  stuck: { token: string; sentence: string }[];
  mayWithdraw: boolean;
  mayWatch: boolean;
  /** To whom an owner may hand a task over; nobody for all others. */
  colleagues: { id: string; name: string; jobTitle: string }[];
  /** A task of this person's own, to go and answer. */
  myTask: string | null;
  now: number;
}

export const requestView = defineUseCase(
  ["see request", "watch"],
  async (c, number: string): Promise<RequestView> => {
    const loaded = await loadRequest(c, { number });
    return { ...(await viewOf(c, loaded)), form: await formOf(c, loaded) };
  },
);

/** The form of a request as it is kept. */
async function formOf(c: Call, { db, d, row, now, release, access }: Loaded): Promise<FormPage> {
  const { data } = row.state;
  const files = { request: row.id, by: [] };
  const facts = engineFacts(d, await factsData(db, d, release.definition, files, data), now, c.actor.zone);
  return formPage(db, d, release, data, access, {
    files,
    requester: row.requester_id,
    number: row.number,
    extra: new Turn(release, row.state, facts, null).extraNames(),
    at: now,
    zone: c.actor.zone,
  });
}

/** A loaded request as the caller may see it, without its form. */
export async function viewOf(c: Call, loaded: Loaded): Promise<Omit<RequestView, "form">> {
  const { db, d, row, now, owner, release, access } = loaded;
  const [events, keys] = await Promise.all([
    requests.eventsOf(db, row.id),
    requests.keysOfEvents(db, row.id),
  ]);
  const state = row.state;
  const name = (id: string) => personName(d, id);
  const stepName = (id: string) => release.places.get(id)?.step.name ?? id;
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
    trail: trailFor(events, release.definition.fields, access, {
      person: name,
      step: stepName,
      time: timeIn(c.actor.zone),
    }).map((l) => ({ ...l, byName: l.by && name(l.by), key: (l.by && keys.get(l.seq)) || null })),
    path: pathOf(release, state, events).map((s) => ({
      ...s,
      said: s.said.map((x) => ({ ...x, by: x.by && name(x.by) })),
    })),
    waiting: open.map((t) => ({
      task: t.id,
      step: t.purpose === "changes" ? `${stepName(t.step)}: changes` : stepName(t.step),
      people: t.candidates
        .filter((x) => t.holder === null || x.person === t.holder)
        .map((x) => ({ name: name(x.person), coversFor: x.for ? name(x.for) : null })),
      due: t.due,
      openedAt: t.openedAt,
      next:
        t.purpose === "changes"
          ? [{ answer: "Send again", then: `then ${stepName(t.step)} again` }]
          : nextInWords(release, t.step),
    })),
    stuck: state.stuck.map((s) => ({ token: s.token, sentence: stuckSentence(s.reason, KINDS) })),
    mayWithdraw: row.requester_id === c.actor.id && row.ended_at === null,
    mayWatch: c.may({ action: "watch", owner }),
    colleagues: c.may({ action: "watch", owner }) && row.ended_at === null ? colleaguesOf(d, c.actor.id) : [],
    myTask:
      open.find(
        (t) =>
          t.candidates.some((x) => x.person === c.actor.id) && (t.holder === null || t.holder === c.actor.id),
      )?.id ?? null,
    now,
  };
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
  fields: readonly Field[],
  access: AccessOf,
  names: Parameters<typeof trailLine>[1],
): TrailLine[] {
  const hidden = hiddenReads(fields, access);
  return events.flatMap((e) => {
    const line = trailLine(e, names, KINDS);
    if (!line) return [];
    return [{ ...line, why: line.why.filter((c) => !c.reads.some(hidden)) }];
  });
}

import { roundText, Turn, waysOn, type RequestState, type Task } from "@/core/engine";
import { stepKind } from "@/core/kinds";
import type { Step } from "@/core/route";
import { nextInWords, pathOf, stuckSentence, type PathStop } from "@/core/words";
import { KINDS } from "@/kinds";
import { personName } from "../kernel/directory";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { engineFacts, factsReader, type FactsReader } from "./facts";
import { formPage, type FormPage } from "./formPage";
import { loadRequest, type Loaded } from "./loadRequest";
import { trailOf, type ShownLine } from "./trail";

/** A way on from a step. */
export interface Way {
  id: string;
  label: string;
}
const waysOf = (step: Step | undefined): Way[] =>
  step ? waysOn(KINDS, step).map(({ id, label }) => ({ id, label })) : [];

export interface WaitingFor {
  task: string;
  step: string;
  /** The round it is of, by its token and in words; none outside of all rounds. */
  scope: string | null;
  about: string;
  people: { name: string; coversFor: string | null }[];
  due: number | null;
  openedAt: number;
  token: string;
  /** How an owner may let it go on without an answer; none where that decides nothing. */
  ways: Way[];
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
  trail: ShownLine[];
  /** Of the trail, and of the path, what came before what is shown. */
  earlier: { lines: number; stops: number };
  path: PathStop[];
  waiting: WaitingFor[];
  /** In words its reader can act on: what an owner can mend, for others that it is seen to. */
  stuck: { token: string; step: string; round: string; sentence: string; asks: boolean; ways: Way[] }[];
  /** What sleeps until a moment. */
  asleep: { token: string; step: string; round: string; until: number }[];
  mayWithdraw: boolean;
  mayWatch: boolean;
  /** A task of this person's own, to go and answer. */
  myTask: string | null;
  now: number;
}

/** @param most lines of the trail and steps of the path, the newest; all where it is not said */
export const requestView = defineUseCase(
  ["see request", "watch"],
  async (c, number: string, most: number = Infinity): Promise<RequestView> => {
    const loaded = await loadRequest(c, { number }, true);
    const { db, d, row, release } = loaded;
    const reader = factsReader(db, d, release.definition, { request: row.id, by: [] });
    return { ...(await viewOf(c, loaded, reader, most)), form: await formOf(c, loaded, reader) };
  },
);

/** The form of a request as it is kept. */
async function formOf(
  c: Call,
  { d, row, now, release, access }: Loaded,
  reader: FactsReader,
): Promise<FormPage> {
  const { data } = row.state;
  const facts = engineFacts(d, await reader.load([], data), now, c.actor.zone);
  return formPage(reader, d, release, data, access, {
    requester: row.requester_id,
    number: row.number,
    extra: new Turn(release, row.state, facts, null).extraNames(),
    at: now,
    zone: c.actor.zone,
  });
}

/** A request loaded with its trail as the caller may see it, without its form. */
export async function viewOf(
  c: Call,
  loaded: Loaded,
  reader: FactsReader,
  most: number,
): Promise<Omit<RequestView, "form">> {
  const { d, row, now, owner, release } = loaded;
  const { state, events } = row;
  const name = (id: string) => personName(d, id);
  const stepName = (id: string) => release.places.get(id)?.step.name ?? id;
  const open = openTasks(state);
  const watches = c.may({ action: "watch", owner });
  const stops = pathOf(release, state, events);
  const names = {
    person: name,
    step: stepName,
    time: timeIn(c.actor.zone),
    task: (id: string) => state.tasks[id] ?? null,
    mends: watches,
  };
  const trail = await trailOf(loaded, reader, names, c.actor.zone, most);
  return {
    number: row.number,
    title: row.title,
    process: { key: row.process_key, name: release.definition.name, version: row.release_version },
    requester: { id: row.requester_id, name: name(row.requester_id) },
    status: state.status,
    result: state.result,
    startedAt: row.started_at,
    endedAt: row.ended_at,
    trail: trail.lines,
    earlier: { lines: trail.earlier, stops: Math.max(0, stops.length - most) },
    path: stops.slice(-most).map((s) => shownStop(s, name)),
    waiting: open.map((t) => ({
      task: t.id,
      scope: t.scope ?? null,
      about: t.about ?? "",
      step: t.purpose === "changes" ? `${stepName(t.step)}: changes` : stepName(t.step),
      people: t.candidates
        .filter((x) => t.holder === null || x.person === t.holder)
        .map((x) => ({ name: name(x.person), coversFor: x.for ? name(x.for) : null })),
      due: t.due,
      openedAt: t.openedAt,
      token: t.token,
      ways: t.purpose === "changes" ? [] : waysOf(release.places.get(t.step)?.step),
      next:
        t.purpose === "changes"
          ? [{ answer: "Send again", then: `then ${stepName(t.step)} again` }]
          : nextInWords(release, t.step),
    })),
    stuck: state.stuck.map((s) => {
      const step = release.places.get(s.step)?.step;
      return {
        token: s.token,
        step: stepName(s.step),
        round: roundText(state.scopes, state.tokens[s.token]?.scope ?? ""),
        sentence: watches ? stuckSentence(s.reason, KINDS) : heldUp(stepName(s.step), row.owners.map(name)),
        asks: step !== undefined && stepKind(KINDS, step).asks !== null,
        ways: step ? waysOf(step) : [],
      };
    }),
    asleep: Object.values(state.sleeps).map((z) => ({
      token: z.token,
      step: stepName(z.step),
      round: roundText(state.scopes, z.scope ?? ""),
      until: z.until,
    })),
    mayWithdraw: row.requester_id === c.actor.id && row.ended_at === null,
    mayWatch: watches,
    myTask:
      open.find(
        (t) =>
          t.candidates.some((x) => x.person === c.actor.id) && (t.holder === null || t.holder === c.actor.id),
      )?.id ?? null,
    now,
  };
}

/** Rounds of one step that are shown; those that are not done come first. */
const MOST_ROUNDS = 60;

/** A stop with people by name, and of many rounds so many. */
function shownStop(s: PathStop, name: (id: string) => string): PathStop {
  const said = s.said.map((x) => ({ ...x, by: x.by && name(x.by) }));
  if (!s.rounds) return { ...s, said };
  const { each } = s.rounds;
  const waited = each.filter((r) => r.state === "here" || r.state === "stuck").slice(0, MOST_ROUNDS);
  const others = each.filter((r) => !waited.includes(r)).slice(0, MOST_ROUNDS - waited.length);
  const kept = each.filter((r) => waited.includes(r) || others.includes(r));
  const shown = kept.map((r) => ({ ...r, stops: r.stops.map((x) => shownStop(x, name)) }));
  return { ...s, said, rounds: { ...s.rounds, each: shown } };
}

const heldUp = (step: string, owners: readonly string[]): string =>
  `This is held up at “${step}”. Those who look after the process have been told${owners.length > 0 ? ` (${owners.join(", ")})` : ""}; you need do nothing.`;

const openTasks = (s: RequestState): Task[] =>
  Object.values(s.tasks).filter((t) => t.status === "open" || t.status === "taken");

const formatters = new Map<string, Intl.DateTimeFormat>();
/** Moments in somebody's zone; making a formatter costs as much as a hundred lines of the trail. */
export function timeIn(zone: string): (ms: number) => string {
  const f =
    formatters.get(zone) ??
    new Intl.DateTimeFormat("en-IE", {
      weekday: "short",
      day: "numeric",
      month: "short",
      hour: "2-digit",
      minute: "2-digit",
      hour12: false,
      timeZone: zone,
    });
  formatters.set(zone, f);
  return (ms) => f.format(ms);
}

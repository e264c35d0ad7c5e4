import {
  isEnded,
  isOfStep,
  isQuestion,
  levelsOf,
  outsideId,
  proceduresFrom,
  releaseAt,
  roundText,
  stageNow,
  Turn,
  waysOn,
  type CompiledRelease,
  type Level,
  type Procedures,
  type RequestState,
  type Task,
} from "@/core/engine";
import { stepKind } from "@/core/kinds";
import type { Step } from "@/core/route";
import { askedBy, besideStep, nextInWords, pathOf, stuckSentence, type PathStop } from "@/core/words";
import { KINDS } from "@/kinds";
import { accountOf, followerOf, hearerOf, partyName, type Party } from "@/core/form";
import { nameIn } from "./nameIn";
import { registersSeen } from "../kernel/registersSeen";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { lettersOf, type MailShown } from "../mail/conversation";
import { letterReader } from "../mail/letterReader";
import { mayWrite, type MayWrite } from "../mail/mayWrite";
import { openFor } from "./openFor";
import { engineFacts, factsReader, type FactsReader } from "./facts";
import { registersAtHand } from "./registersAtHand";
import { formPage, passedOf, signaturesOf, type FormPage } from "./formPage";
import { loadRequest, type Loaded } from "./loadRequest";
import { trailOf, type ShownLine } from "./trail";
import { namesRecords, trailNames } from "./trailNames";

/** A way on from a step. */
export interface Way {
  id: string;
  label: string;
}
const waysOf = (step: Step | undefined): Way[] =>
  step ? waysOn(KINDS, step).map(({ id, label }) => ({ id, label })) : [];

export interface WaitingFor {
  task: string;
  /** What is asked, in words, and the name of its step. */
  step: string;
  at: string;
  /** It is asked beside the step, which waits for its own people. */
  beside: boolean;
  /** Since when its limit stands still; null where it does not. */
  still: number | null;
  /** The round it is of, by its token and in words; none outside of all rounds. */
  scope: string | null;
  /** The procedures it stands in, by their ids; empty outside of all. */
  inside: string;
  about: string;
  people: { name: string; coversFor: string | null }[];
  due: number | null;
  openedAt: number;
  token: string;
  /** How an owner may let it go on without an answer; none where that decides nothing. */
  ways: Way[];
  next: { answer: string; then: string }[];
}

/** A request that started this one, or that this one has started. */
export interface OtherRequest {
  number: string;
  title: string;
  process: string;
  status: RequestState["status"];
  result: RequestState["result"];
  /** Whether its end is waited for. */
  awaited: boolean;
}

export interface RequestView {
  number: string;
  title: string;
  process: { key: string; name: string; version: string };
  /** `id` is whose own it is, null for nobody's; an address only of somebody outside. */
  requester: { kind: Party["kind"]; id: string | null; name: string; email: string | null; says: string };
  status: RequestState["status"];
  result: RequestState["result"];
  /** How far it has come, in its owner's words; see `stagesReached`. */
  stages: { names: string[]; at: number | null } | null;
  startedAt: number;
  endedAt: number | null;
  form: FormPage;
  trail: ShownLine[];
  /** What was written of it, oldest first. */
  letters: MailShown[];
  /** Of the trail, and of the path, what came before what is shown. */
  earlier: { lines: number; stops: number };
  path: PathStop[];
  waiting: WaitingFor[];
  /** By when parts of it, and the whole (named by the process), are to be done; those that run. */
  limits: { of: string; whole: boolean; due: number }[];
  /** In words its reader can act on: what an owner can mend, for others that it is seen to. */
  stuck: { token: string; step: string; round: string; sentence: string; asks: boolean; ways: Way[] }[];
  /** What sleeps until a moment (null for none), or until what it waits for is so: another request has ended, too. */
  asleep: {
    token: string;
    step: string;
    round: string;
    until: number | null;
    awaits: "moment" | "condition" | "request";
  }[];
  /** What has started it, where its reader may see that; else only of which process it is. */
  startedBy: { process: string; request: OtherRequest | null } | null;
  /** What it has started, as far as its reader may see that, the newest first. */
  started: OtherRequest[];
  mayWithdraw: boolean;
  mayWatch: boolean;
  /** Who asked follows it by a link, which its reader may call back; whether a new one can be sent. */
  links: { send: boolean } | null;
  /** A task of this person's own, to go and answer. */
  myTask: string | null;
  /** What they may write by hand; null where nothing. */
  mayWrite: MayWrite | null;
  now: number;
}

/** @param most lines of the trail and steps of the path, the newest; all where it is not said */
export const requestView = defineUseCase(
  ["see request", "watch", "write letter", "ask"],
  async (
    c,
    number: string,
    most: number = Infinity,
  ): Promise<RequestView & { /** By whoever made it. */ mayAskAgain: boolean }> => {
    const loaded = await loadRequest(c, { number }, true);
    const { d, row } = loaded;
    const reader = readerOf(loaded);
    const offer = d.offered.find((o) => o.process === row.process_key);
    return {
      ...(await viewOf(c, loaded, reader, most)),
      form: await formOf(c, loaded, reader),
      mayAskAgain:
        row.requester_id === c.actor.id &&
        offer !== undefined &&
        c.may({ action: "ask", starts: offer.starts, live: true }),
    };
  },
);

/** Reads what a request's own form and trail are about. */
export const readerOf = ({ db, d, release, procedures, row }: Loaded): FactsReader =>
  factsReader(
    db,
    d,
    release.definition,
    { request: row.id, by: [] },
    registersAtHand(d, release, procedures),
  );

/** The form of a request as it is kept. */
export async function formOf(
  c: Call,
  { d, row, now, release, access }: Loaded,
  reader: FactsReader,
): Promise<FormPage> {
  const { data } = row.state;
  const facts = engineFacts(d, await reader.load([], data), now, c.actor.zone);
  return formPage(reader, d, release, data, access, {
    requester: row.state.requester,
    number: row.number,
    extra: new Turn(release, row.state, facts, null).extraNames(),
    signed: signaturesOf(d, release, row.state, access),
    passed: passedOf(d, release, row.state, access, registersSeen(d, c.actor)),
    at: now,
    zone: c.actor.zone,
    seen: registersSeen(d, c.actor),
    outside: c.actor.kind === "visitor",
  });
}

/** A request loaded with its trail as the caller may see it, without its form. */
export async function viewOf(
  c: Call,
  loaded: Loaded,
  reader: FactsReader,
  most: number,
): Promise<Omit<RequestView, "form">> {
  const { d, row, now, owner, release, procedures } = loaded;
  const { state, events } = row;
  const name = nameIn(d, state);
  const inside = proceduresFrom(procedures);
  const levels = levelsOf(state).map((level) => ({ level, on: releaseAt(level, release, inside) }));
  const open = levels.flatMap(({ level, on }) => openTasks(level.state).map((t) => ({ level, on, t })));
  const watches = c.may({ action: "watch", owner });
  const stops = pathOf(release, state, events, (id) => inside.byId(id));
  const seen = registersSeen(d, c.actor);
  const names = trailNames(
    { release, state, events, procedures },
    {
      person: name,
      time: timeIn(c.actor.zone),
      mends: watches,
      namesRecords: namesRecords(d.registers, seen),
    },
  );
  const letters = lettersOf(loaded, letterReader(d, c.actor, state.requester), watches);
  const mine = openFor(state, c.actor.id);
  const trail = await trailOf(loaded, reader, names, seen, c.actor.zone, most);
  return {
    number: row.number,
    title: row.title,
    process: { key: row.process_key, name: release.definition.name, version: row.release_version },
    requester: askerShown(state.requester, name),
    status: state.status,
    result: state.result,
    stages: stagesReached(loaded),
    startedAt: row.started_at,
    endedAt: row.ended_at,
    trail: withLetters(trail.lines, letters),
    letters,
    earlier: { lines: trail.earlier, stops: Math.max(0, stops.length - most) },
    path: stops.slice(-most).map((s) => shownStop(s, name)),
    waiting: open.map(({ level, on, t }) => {
      const stepName = nameOf(on, t.step);
      return {
        task: outsideId(level, t.id),
        scope: t.scope ?? null,
        inside: level.calls.map((x) => x.id).join("/"),
        about: whereText(state, level, release, inside, t.about),
        step: besideStep(t.purpose, stepName),
        at: stepName,
        beside: t.question !== undefined,
        still: level.state.visits[t.visit]?.stopped?.since ?? null,
        people: t.candidates
          .filter((x) => t.holder === null || x.person === t.holder)
          .map((x) => ({ name: name(x.person), coversFor: x.for ? name(x.for) : null })),
        due: t.due,
        openedAt: t.openedAt,
        token: outsideId(level, t.token),
        ways: isOfStep(t) ? waysOf(on.places.get(t.step)?.step) : [],
        next: nextAfter(t.purpose, stepName, () => nextInWords(on, t.step, state.requester)),
      };
    }),
    limits: levels.flatMap(({ level, on }) =>
      Object.values(level.state.spans ?? {}).flatMap(({ step, due }) => {
        const of = step === "" ? on.definition.name : nameOf(on, step);
        const whole = step === "" && level.calls.length === 0;
        return due === null ? [] : [{ of, whole, due }];
      }),
    ),
    stuck: levels.flatMap(({ level, on }) =>
      // Where a procedure is stuck, that says why.
      level.state.stuck
        .filter((s) => !s.call)
        .map((s) => {
          const step = on.places.get(s.step)?.step;
          const round = roundText(level.state.scopes, level.state.tokens[s.token]?.scope ?? "");
          return {
            token: outsideId(level, s.token),
            step: nameOf(on, s.step),
            round: whereText(state, level, release, inside, round),
            sentence: watches
              ? stuckSentence(s.reason, KINDS)
              : heldUp(nameOf(on, s.step), row.owners.map(name)),
            asks: step !== undefined && stepKind(KINDS, step).asks !== null,
            ways: step ? waysOf(step) : [],
          };
        }),
    ),
    asleep: levels.flatMap(({ level, on }) => [
      ...Object.values(level.state.pending).map((p) => ({
        token: outsideId(level, p.token),
        step: nameOf(on, p.step),
        round: whereText(
          state,
          level,
          release,
          inside,
          roundText(level.state.scopes, level.state.tokens[p.token]?.scope ?? ""),
        ),
        until: null,
        awaits: "request" as const,
      })),
      ...Object.values(level.state.sleeps).map((z) => ({
        token: outsideId(level, z.token),
        step: nameOf(on, z.step),
        round: whereText(state, level, release, inside, roundText(level.state.scopes, z.scope ?? "")),
        until: z.until,
        awaits: z.watches === undefined ? ("moment" as const) : ("condition" as const),
      })),
    ]),
    ...relativesOf(c, row.relatives),
    mayWithdraw: row.requester_id === c.actor.id && row.ended_at === null,
    mayWatch: watches,
    links: watches ? linksOf(state.requester) : null,
    myTask: mine.map(({ level, t }) => outsideId(level, t.id))[0] ?? null,
    // Whoever is only asked something says it there.
    mayWrite: mayWrite(
      c,
      loaded,
      mine.some(({ t }) => !isQuestion(t)),
      state.requester,
      letters,
    ),
    now,
  };
}

function nextAfter(
  purpose: Task["purpose"],
  step: string,
  own: () => WaitingFor["next"],
): WaitingFor["next"] {
  switch (purpose) {
    case "decide":
    case "complete":
      return own();
    case "changes":
      return [{ answer: "Send again", then: `then ${step} again` }];
    case "question":
    case "advice":
      return [];
  }
}

/** Whether somebody outside follows it by links, and can be sent another. */
const linksOf = (asker: Party): RequestView["links"] =>
  followerOf(asker) === null ? null : { send: hearerOf(asker) !== null };

/** How far it has come, in the words of its owner; null where they grouped no steps, or it was given up. */
function stagesReached({ release, row }: Loaded): RequestView["stages"] {
  const { state, events } = row;
  const { stages } = release;
  if (stages.names.length === 0 || state.status === "withdrawn" || state.status === "cancelled") return null;
  const finished = events.findLast((e) => e.type === "request finished");
  return {
    names: [...stages.names],
    at: stageNow(stages, state, finished?.type === "request finished" ? finished.step : null),
  };
}

const askerShown = (p: Party, name: (id: string) => string): RequestView["requester"] => ({
  kind: p.kind,
  id: accountOf(p),
  name: partyName(p, name),
  says: askedBy(p, name),
  email: p.kind === "outside" ? p.email || null : null,
});

/** What one may not see of them is left out; of what started it the process is told. */
function relativesOf(
  c: Call,
  relatives: Loaded["row"]["relatives"],
): Pick<RequestView, "startedBy" | "started"> {
  const told = relatives.map((r) => {
    const deed = { requester: r.requester, tookPart: r.took_part, owner: r.owner };
    const { number, title, process, status, started, waits } = r;
    const result = r.result === null ? null : { name: r.result, tone: r.tone ?? "plain" };
    const awaited = waits && !isEnded(r);
    const seen = c.may({ action: "see request", ...deed });
    return { started, process, request: seen ? { number, title, process, status, result, awaited } : null };
  });
  const by = told.find((x) => x.started);
  return {
    startedBy: by ? { process: by.process, request: by.request } : null,
    started: told.flatMap((x) => (!x.started && x.request ? [x.request] : [])),
  };
}

/**
 * The trail with what was written by hand and what came, where it stands between its lines. What came before the first line
 * that is shown is left out with what happened then.
 */
function withLetters(lines: ShownLine[], letters: readonly MailShown[]): ShownLine[] {
  const since = lines[0]?.at ?? 0;
  const told = letters.flatMap((l): ShownLine[] =>
    (l.byHand || l.direction === "in") && l.at >= since
      ? [
          {
            // No event has it.
            seq: -Number(l.id),
            at: l.at,
            by: null,
            text: l.byHand
              ? `${l.from} wrote to ${l.to.join(", ")}: ${l.subject}`
              : `${l.from} wrote: ${l.subject}`,
            note: "",
            why: [],
            tone: "quiet",
            task: null,
            round: "",
            byName: null,
            key: null,
            means: null,
            changes: [],
            more: 0,
          },
        ]
      : [],
  );
  // One that could not be sent at once stands where it was sent.
  told.sort((a, b) => a.at - b.at);
  const out: ShownLine[] = [];
  let next = 0;
  for (const line of lines) {
    while (next < told.length && told[next]!.at < line.at) out.push(told[next++]!);
    out.push(line);
  }
  return [...out, ...told.slice(next)];
}

const nameOf = (on: CompiledRelease, step: string): string => on.places.get(step)?.step.name ?? step;

/** Where something stands, in words: the round, the step that hands to the procedure, the round in that. */
export function whereText(
  state: RequestState,
  { calls }: Level,
  release: CompiledRelease,
  procedures: Procedures,
  own: string | undefined,
): string {
  const words: (string | undefined)[] = [];
  let around = state;
  calls.forEach((call, i) => {
    const on = releaseAt({ calls: calls.slice(0, i) }, release, procedures);
    words.push(roundText(around.scopes, call.scope ?? ""), nameOf(on, call.step));
    around = call.state;
  });
  return [...words, own].filter(Boolean).join(" · ");
}

/** Rounds of one step that are shown; those that are not done come first. */
const MOST_ROUNDS = 60;

/** A stop with people by name, and of many rounds so many. */
function shownStop(s: PathStop, name: (id: string) => string): PathStop {
  const said = s.said.map((x) => ({ ...x, by: x.by && name(x.by) }));
  const inner = s.inner && { ...s.inner, stops: s.inner.stops.map((x) => shownStop(x, name)) };
  if (!s.rounds) return { ...s, said, ...(inner ? { inner } : {}) };
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

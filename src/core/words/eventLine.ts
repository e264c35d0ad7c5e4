import {
  inCall,
  taskOf,
  type Candidate,
  type Gone,
  type RequestEvent,
  type Sleep,
  type Task,
} from "../engine";
import type { Clause } from "../expression";
import type { Kinds, TrailNames, TrailWords } from "../kinds";
import { RoundsTold } from "./roundsTold";
import { stuckSentence } from "./sentences";

export type { TrailNames } from "../kinds";

/** One line of the trail: who, what, and what was said; `why` is shown when asked for. */
export interface TrailLine {
  seq: number;
  at: number;
  by: string | null;
  text: string;
  note: string;
  why: Clause[];
  tone: "plain" | "agree" | "refuse" | "stuck" | "quiet";
  /** The task it is about. */
  task: string | null;
  /** The round in which it happened, in words; empty outside of all rounds. */
  round: string;
  /** The id of the release of the procedure in which it happened; absent outside of all. */
  inside?: string;
}

const GONE: Record<Gone, string> = {
  left: "has left",
  away: "is away",
  apart: "has answered a step that keeps them from this one",
};

const several = (n: number, one: string, more: string): string => (n === 1 ? one : more);

/** The trail line of an event, or null for bookkeeping that means nothing to a reader. */
export function trailLine(e: RequestEvent, names: TrailNames, kinds: Kinds): TrailLine | null {
  const line = (text: string, more: Partial<TrailLine> = {}): TrailLine => ({
    seq: e.seq,
    at: e.at,
    by: e.by,
    text,
    note: "",
    why: [],
    tone: "plain",
    task: taskOf(e),
    round: "",
    ...more,
  });
  /** What a kind of step says of itself. */
  const said = (w: TrailWords | undefined): TrailLine | null =>
    w ? line(w.text, { why: w.why ?? [], tone: w.quiet ? "quiet" : "plain" }) : null;
  switch (e.type) {
    case "request started":
      // Nobody outside acts by an account of their own: their name stands in the line.
      if (e.handed && e.requester.kind === "outside")
        return line(`${e.requester.name || e.requester.email} made the request`);
      return line(e.handed ? "The request was started by another one" : "made the request");
    case "data changed": {
      const n = Object.keys(e.data).length;
      if (e.anew) return line("read values anew with the answer");
      return line(`changed ${several(n, "a value", `${n} values`)} in the form`, { tone: "quiet" });
    }
    case "check passed":
      return line("went on past a check, saying why", { note: e.note });
    case "signed":
      return line(`entered a signature${e.hash && `, fingerprint ${e.hash.slice(0, 12)}`}`);
    case "step did":
      return said(kinds.steps[e.did.kind].news?.line(e.did, names.step(e.step), names));
    case "visit opened":
      if (e.visit.due === null || !e.why?.length) return null;
      return line(`${names.step(e.visit.step)}: limit ${names.time(e.visit.due)}`, {
        why: e.why,
        tone: "quiet",
      });
    case "call opened": {
      const { step = names.step(e.call.step), procedure = e.call.procedure } = names.inCall(e.call.id) ?? {};
      return line(`${step}: goes through “${procedure}”`);
    }
    case "call ended": {
      const ended = e.result ? `: ${e.result}` : "";
      return line(`${names.step(e.step)}: come to its end${ended}`, { tone: "quiet" });
    }
    case "call called off":
      return line(`${names.step(e.step)}: called off`, { tone: "quiet" });
    case "in call": {
      const within = names.inCall(e.call);
      // How it began and ended is told of the step that hands to it.
      const told = e.event.type === "request started" || e.event.type === "request finished";
      const inner = within && !told ? trailLine(e.event, within.names, kinds) : null;
      if (!within || !inner) return null;
      const round = [within.step, inner.round].filter(Boolean).join(" · ");
      const task = inner.task === null ? null : inCall(e.call, inner.task);
      return { ...inner, seq: e.seq, at: e.at, task, round, inside: inner.inside ?? within.release };
    }
    case "fell asleep":
      return line(`${names.step(e.sleep.step)}: ${sleepWords(e.sleep, names)}`);
    case "woke":
      return line(`${names.step(e.step)}: ${e.came ? "what it waited for is so" : "goes on"}`, {
        tone: "quiet",
      });
    case "next asked":
    // Who it is stands where they are asked.
    case "outsider named":
      return null;
    case "task opened":
      return line(openedWords(e.task, names));
    case "question asked":
      return line(
        `${names.step(e.task.step)}: asks ${asked(e.task.candidates, names)}${e.task.purpose === "advice" ? " for advice" : ""}`,
        { note: e.note },
      );
    case "question ended":
      return null;
    case "limit stopped":
      return line(`${names.step(e.step)}: its limit stands still until that is answered`, { tone: "quiet" });
    case "limit goes on": {
      const until = e.due === null ? "" : `, until ${names.time(e.due)}`;
      return line(`${names.step(e.step)}: its limit goes on${until}`, { tone: "quiet" });
    }
    case "decider added":
      return line(
        `${names.step(e.task.step)}: ${asked(e.task.candidates, names)} is asked too, as the ladder says`,
      );
    case "task taken":
      return line("took the task", { tone: "quiet" });
    case "task put back":
      return line("put the task back", { tone: "quiet" });
    case "task handed over": {
      const to = asked(e.to, names);
      if (e.gone) return line(`Asked instead: ${to}; whoever was asked ${GONE[e.gone]}`);
      if (e.by !== null && e.to[0]?.person === e.by) return line("took back what was with their cover");
      const again = e.back?.[0] === e.by && e.by !== null ? ", to have it back" : "";
      return line(e.rung ? `Handed over to ${to}, as the ladder says` : `handed over to ${to}${again}`, {
        note: e.note,
      });
    }
    case "answer proposed": {
      const stands = e.for ? ` (for ${names.person(e.for)})` : "";
      return line(`would answer: ${e.label}${stands}; it is with ${asked(e.to, names)} again`, {
        note: e.note,
      });
    }
    case "task closed":
      if (e.reason === "merged")
        return line("They are asked already: their one answer counts once, and one fewer is asked", {
          tone: "quiet",
        });
      if (e.reason === "left")
        return line("Somebody who was asked is not there any more; one fewer is asked", { tone: "quiet" });
      return line(`${calledOff(e.task, names)}, ${WHY_CLOSED[e.reason]}`, { tone: "quiet" });
    case "visit given up":
      return line(`${names.step(e.step)}: nobody who was asked is there any more`, { tone: "quiet" });
    case "answer given": {
      const stands = e.for ? ` (for ${names.person(e.for)})` : "";
      if (names.task(e.task)?.question) return line(`answered what was asked${stands}`, { note: e.note });
      return line(`${e.automatic ? "Answered on their behalf" : "answered"}: ${e.label}${stands}`, {
        note: e.note,
      });
    }
    case "step decided":
      if (e.given < 2) return null;
      return line(`${names.step(e.step)}: ${e.label}, by ${e.given} answers`, { tone: "quiet", by: null });
    case "returned for changes":
      // What is asked for stands with the answer that asked for it.
      return line(`${names.step(e.step)}: sent back for changes`);
    case "changes sent":
      return line(`${names.step(e.step)}: starts again with the changes`, { tone: "quiet" });
    case "values set": {
      const what = several(Object.keys(e.data).length, "a value was", "values were");
      return line(`${names.step(e.step)}: ${what} set`, { tone: "quiet" });
    }
    case "effect done":
      return said(kinds.steps[e.kind].doneWords?.(e.result, names.step(e.step), names));
    case "rung fired": {
      if (e.unclear?.code === "unclear") {
        const { formula, why } = e.unclear.data;
        const text = `The ladder could not ${e.did}: “${formula}” cannot be worked out.`;
        return line(why ? `${text} ${why}` : text, { tone: "stuck" });
      }
      if (e.unmet) {
        const text = `The ladder did not ${e.did}: what must hold for it does not`;
        return line(text, { tone: "quiet" });
      }
      if (!e.found) return line(`The ladder found nobody to ${e.did}`, { tone: "stuck" });
      const words = kinds.rungs[e.did].firedWords;
      return words ? line(words, { tone: "quiet" }) : null;
    }
    case "files removed": {
      const many = several(e.count, "One file was", `${e.count} files were`);
      return line(`${many} removed: files are kept only so long after the end`, { tone: "quiet" });
    }
    case "not delivered":
      // Of a procedure that has ended nothing is said but this.
      return line(
        `${e.step === "" ? "Mail" : `${names.step(e.step)}: it`} could not be delivered to ${e.to}`,
        {
          tone: "stuck",
          note: e.why,
        },
      );
    case "got stuck":
      return line(
        names.mends
          ? stuckSentence(e.reason, kinds)
          : `Held up at “${names.step(e.step)}”. The owners of the process have been told`,
        { tone: "stuck" },
      );
    case "got unstuck":
      return unstuckLine(e, names, line);
    case "way chosen":
      return line(
        e.way === null
          ? `let the request go on without “${names.step(e.step)}”`
          : `let the request go on at “${names.step(e.step)}” as: ${e.label}`,
        { note: e.note },
      );
    case "reminded":
      return line(`reminded ${taskWords(e.task, names)}`, { note: e.note });
    case "limit changed":
      return line(
        `${names.step(e.step)}: another limit, ${names.time(e.due)}${e.was === undefined ? "" : ` in the place of ${names.time(e.was)}`}`,
        { note: e.note },
      );
    case "span opened": {
      const of = e.span.step === "" ? "The request as a whole" : names.step(e.span.step);
      if (e.unclear) {
        const why = e.unclear.code === "unclear" ? (e.unclear.data.why ?? "") : "";
        return line(`${of}: its limit cannot be worked out. ${why}`.trim(), { tone: "stuck" });
      }
      const until = e.span.due === null ? "without an end" : `until ${names.time(e.span.due)}`;
      return line(`${of}: ${until}`, { tone: "quiet", why: e.why ?? [] });
    }
    case "span closed":
      return null;
    case "request finished":
      return line(`Finished: ${e.result}`, { tone: e.tone });
    case "values blanked":
      return line("personal values were blanked", { tone: "quiet" });
    case "request withdrawn":
      return line("withdrew the request", { note: e.note, tone: "refuse" });
    case "request cancelled":
      return line(
        e.calledOff ? "The request was called off with the one that started it" : "cancelled the request",
        {
          note: e.note,
          tone: "refuse",
        },
      );
    case "round left out":
      return line(`${names.step(e.step)}: number ${e.index + 1} is left out, for it was taken away`, {
        tone: "quiet",
      });
    case "run closing":
      return line(`${names.step(e.step)}: enough is known, no more are gone through`, { tone: "quiet" });
    case "token called off":
      // What people had of it is told by their tasks.
      return e.scope === e.token ? line("called off", { tone: "quiet" }) : null;
    // Bookkeeping, told by what stands beside it.
    case "run opened":
    case "round opened":
    case "round ended":
    case "run parked":
    case "run went on":
    case "run ended":
    case "records kept":
    case "looked":
    case "token placed":
    case "token moved":
    case "branch ended":
    case "branch let go":
    case "errand placed":
    case "errand kept":
    case "list sent out":
    case "effect asked":
    case "effect failed":
    case "timer set":
    case "timer cleared":
      return null;
  }
}

function sleepWords({ until, watches }: Sleep, names: TrailNames): string {
  const latest = until === null ? "" : names.time(until);
  if (!watches) return `waits until ${latest}`;
  return `waits until what it waits for is so${latest && `, no later than ${latest}`}`;
}

const asked = (cs: readonly Candidate[], names: TrailNames): string =>
  cs
    .map((c) =>
      c.for ? `${names.person(c.person)} (covering for ${names.person(c.for)})` : names.person(c.person),
    )
    .join(", ");

function openedWords(t: Task, names: TrailNames): string {
  const who = asked(t.candidates, names);
  if (t.purpose === "changes") return `${who} is asked for changes`;
  const until = t.due === null ? "" : `, until ${names.time(t.due)}`;
  const turn = t.turn === undefined ? "" : ", whose turn it is";
  return `${names.step(t.step)}: ${who} ${several(t.candidates.length, "is", "are")} asked${turn}${until}`;
}

const WHY_CLOSED: Record<
  Exclude<Extract<RequestEvent, { type: "task closed" }>["reason"], "left" | "merged">,
  string
> = {
  decided: "for the step is decided",
  ended: "for the request ended",
  returned: "for it went back for changes",
  enough: "for enough is known",
  gone: "for what it was about was taken away",
};

function calledOff(task: string, names: TrailNames): string {
  const t = names.task(task);
  return t ? `${names.step(t.step)}: called off for ${taskWords(task, names)}` : "A task was called off";
}

/** Whoever has a task, by name. */
function taskWords(task: string, names: TrailNames): string {
  const t = names.task(task);
  return t
    ? asked(t.holder === null ? t.candidates : t.candidates.filter((c) => c.person === t.holder), names)
    : "whoever was asked";
}

function unstuckLine(
  e: Extract<RequestEvent, { type: "got unstuck" }>,
  names: TrailNames,
  line: (text: string, more?: Partial<TrailLine>) => TrailLine,
): TrailLine | null {
  switch (e.how) {
    case "retried":
      return line(`tried “${names.step(e.step)}” again`);
    case "skipped":
      return line(`skipped ${names.step(e.step)}`);
    case "named":
      return line(`said whom “${names.step(e.step)}” asks`, { note: e.note ?? "" });
    case "chosen":
      return null;
  }
}

/**
 * The trail of some events, in their order. A try that left the request stuck at the same place is told as that: nothing
 * went on.
 */
export function trailLines(events: readonly RequestEvent[], names: TrailNames, kinds: Kinds): TrailLine[] {
  const out: TrailLine[] = [];
  let again: string | null = null;
  const rounds = new RoundsTold();
  for (const [i, e] of events.entries()) {
    rounds.note(e);
    if (e.type === "got unstuck" && e.how === "retried" && stillStuck(events, i)) {
      again = e.by;
      continue;
    }
    const said = trailLine(e, names, kinds);
    if (!said) continue;
    const where = [rounds.words(e.scope), said.round, rounds.inside(e)];
    const line = { ...said, round: where.filter(Boolean).join(" · ") };
    if (e.type === "got stuck" && again !== null) {
      out.push({ ...line, by: again, text: `tried again; nothing went on: ${line.text}` });
      again = null;
    } else out.push(line);
  }
  return out;
}

/** Whether a try, the event at `i`, came to nothing: the same token stuck at the same step before anything else happened. */
function stillStuck(events: readonly RequestEvent[], i: number): boolean {
  const tried = events[i] as Extract<RequestEvent, { type: "got unstuck" }>;
  for (const e of events.slice(i + 1, i + 8)) {
    if (e.at !== tried.at) return false;
    if (e.type === "got stuck") return e.token === tried.token && e.step === tried.step;
    if (e.type !== "effect asked" && e.type !== "effect failed") return false;
  }
  return false;
}

import { rungKind } from "../kinds";
import { choicesOf, conclude } from "./answer";
import { rungPlaces, type Limit } from "../route";
import { peopleOf, receiversOf, withCover, type Bar } from "./assign";
import { barFor } from "./bar";
import { moveTask } from "./handOver";
import { fireSpan } from "./fireSpan";
import { limitOf, rungsOf } from "./ladder";
import { letterToSend } from "./letterToSend";
import { rungFired, whyNotFired } from "./rungFired";
import { ladderOwner } from "./release";
import { scopeOfText } from "./scopeOfText";
import { isOpen, type Candidate, type StuckReason } from "./state";
import type { At, Turn } from "./turn";
import { newTask } from "./visit";
import { voteOf } from "./voteOf";
import { clearly } from "./unclear";
import { wake } from "./walk";

/** A moment of a ladder has come: does what its rung says to whoever still has the task. */
export function timeReached(turn: Turn, id: string) {
  const timer = turn.state.timers[id];
  if (timer && turn.state.sleeps[timer.visit]) return wake(turn, timer.visit);
  const span = timer && turn.state.spans?.[timer.visit];
  if (span) return fireSpan(turn, timer, span);
  const visit = timer ? turn.state.visits[timer.visit] : undefined;
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  const limit = step ? limitOf(turn, step) : undefined;
  const rung = limit && rungsOf(turn, limit).find((r) => r.id === timer?.rung);
  // Cleared, or fired already by another worker: a timer means nothing once it is gone from the state.
  if (!timer || !visit || !step || !limit || !rung) return;
  const open = Object.values(turn.state.tasks).filter((t) => t.visit === visit.id && isOpen(t));
  const place = rungPlaces.of(rung.id);
  const here = turn.at(visit.token, step.id);
  const at = ladderAt(turn, limit, here);
  let unclear: StuckReason | undefined;
  const fired = (found: boolean) => rungFired(turn, timer, step.id, rung, { found, unclear });
  const not = whyNotFired(turn, at, rung);
  if (not) return rungFired(turn, timer, step.id, rung, { found: false, ...not });
  // Where it cannot be told who may be asked, nobody else is: the trail says why.
  const barOf = (): Bar => {
    const told = clearly(() => barFor(turn, { ...visit, step: step.id }));
    if (!("go" in told)) return told;
    unclear = told.reason;
    return () => "kept-apart";
  };
  const duties = new Map<string, string>();
  /** Those of them who may be asked, covers in the place of whoever is away. */
  const fit = (people: readonly string[]): Candidate[] => {
    const bar = barOf();
    return withCover(turn, people, duties).filter((c) => bar(c.person) === null);
  };
  const deed = rungKind(turn.release.kinds, rung.action).fire(rung.action, {
    number: turn.state.number,
    step: step.name,
    waiting: [...new Set(open.flatMap((t) => (t.holder ? [t.holder] : t.candidates.map((c) => c.person))))],
    tasks: open.map((t) => t.id),
    people: (rule, { task, asks } = {}) => {
      const of = task ? turn.state.tasks[task] : undefined;
      const holder = of ? (of.holder ?? of.candidates[0]?.person) : open[0]?.holder;
      const bar = asks ? { bar: barOf() } : {};
      const found = clearly(() =>
        peopleOf(turn, at, place, rule, { holder: holder ?? null, duties, ...bar }),
      );
      if (!("go" in found)) return found;
      // Whoever has the task keeps it, and the trail says why the rung did nothing.
      unclear = found.reason;
      return [];
    },
    receivers: (rule) => {
      const found = clearly(() => receiversOf(turn, at, place, rule));
      if (!("go" in found)) return found;
      unclear = found.reason;
      return [];
    },
    text: (part, template) => turn.text(at, `${place} ${part}`, template),
  });
  switch (deed.do) {
    case "tell": {
      const { to, letter } = deed;
      const people = to.flatMap((r) => ("person" in r ? [r.person] : []));
      const said =
        letter === undefined ? { ...deed, people } : clearly(() => letterToSend(turn, here, letter, to));
      if ("go" in said) {
        // Nobody is told half of it; the trail says why.
        unclear = said.reason;
        fired(false);
        return;
      }
      const told = letter === undefined ? people : to;
      fired(told.length > 0);
      if (told.length === 0) return;
      if ("mail" in said) turn.send(here, { kind: "tell", ...said });
      else {
        const { subject, text } = said;
        turn.send(here, { kind: "tell", people, subject, text, ...(deed.reminds ? { reminds: true } : {}) });
      }
      return;
    }
    case "ask": {
      const asked = new Set(open.flatMap((t) => t.candidates.map((c) => c.person)));
      // Whoever has answered already is not asked a second time.
      const fresh = fit(deed.people).filter(
        (c) => !asked.has(c.person) && !voteOf(turn, { visit: visit.id }, c.person),
      );
      fired(fresh.length > 0);
      const of = {
        visit: visit.id,
        step: step.id,
        token: visit.token,
        purpose: visit.purpose,
        due: visit.due,
        ...(visit.wide ? { wide: true as const } : {}),
      };
      for (const c of fresh)
        turn.raise({ type: "decider added", task: newTask(turn, of, [c]), rung: rung.id });
      return;
    }
    case "move": {
      const moves = deed.moves.map(({ task, people }) => ({
        task,
        to: fit(people).filter((c) => c.person !== turn.state.tasks[task]?.holder),
      }));
      fired(moves.some((m) => m.to.length > 0));
      for (const { task, to } of moves) {
        // One that was merged may have settled the visit.
        const t = turn.state.tasks[task];
        if (t && isOpen(t) && to.length > 0) moveTask(turn, t, to, { note: "", rung: rung.id });
      }
      return;
    }
    case "answer": {
      fired(true);
      const choices = choicesOf(turn.release, { purpose: visit.purpose, step: step.id });
      const chosen = choices.find((x) => x.id === deed.answer);
      const first = open[0];
      if (!chosen || !first) return;
      const { answer, note } = deed;
      turn.raise({
        type: "answer given",
        task: first.id,
        answer,
        label: chosen.label,
        note,
        automatic: true,
      });
      // On everybody's behalf: what others might still have said no longer matters.
      conclude(turn, visit.id, step, chosen, note, 1);
      return;
    }
  }
}

/** Where the formulas of a ladder are found: at its step, or in the ladder kept by name. */
function ladderAt(turn: Turn, { ladder }: Limit, here: At): At {
  if (ladder === undefined) return here;
  const owner = ladderOwner(ladder);
  return { step: owner, scope: scopeOfText(turn, owner, here.scope) };
}

import { rungKind } from "../kinds";
import { rungPlaces } from "../route";
import { peopleOf, receiversOf, withCover } from "./assign";
import { barFor } from "./bar";
import { letterToSend } from "./letterToSend";
import { moveTask } from "./handOver";
import { rungFired, whyNotFired } from "./rungFired";
import { spanLimit, tokensIn } from "./spans";
import { isOfStep, isOpen, type Span, type StuckReason, type Task, type Timer } from "./state";
import type { At, Turn } from "./turn";
import { clearly } from "./unclear";

/** A moment of the ladder of a part, or of the whole, has come: its rung is about all that waits for somebody in it. */
export function fireSpan(turn: Turn, timer: Timer, span: Span): void {
  const rung = spanLimit(turn.release, span.step)?.rungs.find((r) => r.id === timer.rung);
  if (!rung) return;
  const { release, state } = turn;
  const at: At = { step: span.step, scope: null };
  const place = rungPlaces.of(rung.id);
  let unclear: StuckReason | undefined;
  const fired = (found: boolean) => rungFired(turn, timer, span.step, rung, { found, unclear });
  const not = whyNotFired(turn, at, rung);
  if (not) return rungFired(turn, timer, span.step, rung, { found: false, ...not });
  const inside = tokensIn(turn.whole(), release, span);
  const tasks = Object.values(state.tasks).filter((t) => isOpen(t) && isOfStep(t) && inside.has(t.token));
  const hasIt = (t: Task) => (t.holder ? [t.holder] : t.candidates.map((c) => c.person));
  const duties = new Map<string, string>();
  const told = <T>(of: () => T[]): T[] => {
    const found = clearly(of);
    if (!("go" in found)) return found;
    // Whoever has a task keeps it, and the trail says why the rung did nothing.
    unclear = found.reason;
    return [];
  };
  const name = release.places.get(span.step)?.step.name ?? release.definition.name;
  const deed = rungKind(release.kinds, rung.action).fire(rung.action, {
    number: state.number,
    step: name,
    waiting: [...new Set(tasks.flatMap(hasIt))],
    tasks: tasks.map((t) => t.id),
    people(rule, { task } = {}) {
      const of = task ? state.tasks[task] : tasks[0];
      const holder = of ? (hasIt(of)[0] ?? null) : null;
      return told(() => peopleOf(turn, at, place, rule, { holder, duties }));
    },
    receivers: (rule) => told(() => receiversOf(turn, at, place, rule)),
    text: (part, template) => turn.text(at, `${place} ${part}`, template),
  });
  switch (deed.do) {
    case "tell": {
      const people = deed.to.flatMap((r) => ("person" in r ? [r.person] : []));
      // What is sent stands with a step of the route, by which it is told whether it arrived.
      const here = { step: span.step || (release.definition.route[0]?.id ?? ""), scope: null };
      if (deed.letter !== undefined) {
        const { letter, to } = deed;
        const said = clearly(() => letterToSend(turn, here, letter, to));
        if ("go" in said) {
          unclear = said.reason;
          return void fired(false);
        }
        fired(to.length > 0);
        if (to.length > 0) turn.send(here, { kind: "tell", ...said });
        return;
      }
      fired(people.length > 0);
      const { subject, text } = deed;
      const reminds = deed.reminds ? { reminds: true as const } : {};
      if (people.length > 0) turn.send(here, { kind: "tell", people, subject, text, ...reminds });
      return;
    }
    case "move": {
      const moves = deed.moves.flatMap(({ task, people }) => {
        const t = state.tasks[task]!;
        const bar = clearly(() => barFor(turn, t));
        if ("go" in bar) {
          unclear = bar.reason;
          return [];
        }
        const to = withCover(turn, people, duties).filter(
          (c) => bar(c.person) === null && !hasIt(t).includes(c.person),
        );
        return to.length > 0 ? [{ task, to }] : [];
      });
      fired(moves.length > 0);
      for (const { task, to } of moves) {
        // One that was merged may have settled its visit.
        const t = turn.state.tasks[task];
        if (t && isOpen(t)) moveTask(turn, t, to, { note: "", rung: rung.id });
      }
      return;
    }
    // Of one step alone: problems say so before a release.
    case "ask":
    case "answer":
      return void fired(false);
  }
}

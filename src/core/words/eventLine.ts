import type { Candidate, RequestEvent, Task } from "../engine";
import type { Clause } from "../expression";
import type { Kinds, TrailNames, TrailWords } from "../kinds";
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
}

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
    ...more,
  });
  /** What a kind of step says of itself. */
  const said = (w: TrailWords | undefined): TrailLine | null =>
    w ? line(w.text, { why: w.why ?? [], tone: w.quiet ? "quiet" : "plain" }) : null;
  switch (e.type) {
    case "request started":
      return line("made the request");
    case "data changed": {
      const n = Object.keys(e.data).length;
      return line(`changed ${several(n, "a value", `${n} values`)} in the form`, { tone: "quiet" });
    }
    case "step did":
      return said(kinds.steps[e.did.kind].news?.line(e.did, names.step(e.step), names));
    case "visit opened":
      if (e.visit.due === null || !e.why?.length) return null;
      return line(`${names.step(e.visit.step)}: limit ${names.time(e.visit.due)}`, {
        why: e.why,
        tone: "quiet",
      });
    case "task opened":
      return line(openedWords(e.task, names));
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
      if (e.gone)
        return line(`Asked instead: ${to}; whoever was asked ${e.gone === "left" ? "has left" : "is away"}`);
      return line(e.rung ? `Handed over to ${to}, as the ladder says` : `handed over to ${to}`, {
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
      return null;
    case "visit given up":
      return line(`${names.step(e.step)}: nobody who was asked is there any more`, { tone: "quiet" });
    case "answer given": {
      const stands = e.for ? ` (for ${names.person(e.for)})` : "";
      return line(`${e.automatic ? "Answered on their behalf" : "answered"}: ${e.label}${stands}`, {
        note: e.note,
      });
    }
    case "step decided":
      if (e.given < 2) return null;
      return line(`${names.step(e.step)}: ${e.label}, by ${e.given} answers`, { tone: "quiet", by: null });
    case "returned for changes":
      return line(`${names.step(e.step)}: sent back for changes`, { note: e.note });
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
      if (!e.found) return line(`The ladder found nobody to ${e.did}`, { tone: "stuck" });
      const words = kinds.rungs[e.did].firedWords;
      return words ? line(words, { tone: "quiet" }) : null;
    }
    case "got stuck":
      return line(stuckSentence(e.reason, kinds), { tone: "stuck" });
    case "got unstuck":
      return line(`${e.how} ${names.step(e.step)}`);
    case "request finished":
      return line(`Finished: ${e.result}`, { tone: e.tone });
    case "values blanked":
      return line("personal values were blanked", { tone: "quiet" });
    case "request withdrawn":
      return line("withdrew the request", { note: e.note, tone: "refuse" });
    case "request cancelled":
      return line("cancelled the request", { note: e.note, tone: "refuse" });
    // Bookkeeping, told by what stands beside it.
    case "token placed":
    case "token moved":
    case "branch ended":
    case "effect asked":
    case "effect failed":
    case "timer set":
    case "timer cleared":
      return null;
  }
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
  return `${names.step(t.step)}: ${who} ${several(t.candidates.length, "is", "are")} asked${until}`;
}

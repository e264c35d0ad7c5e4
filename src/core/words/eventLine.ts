import type { RequestEvent } from "../engine";
import type { Clause } from "../expression";
import { stuckSentence } from "./sentences";

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

export interface TrailNames {
  person(id: string): string;
  step(id: string): string;
  time(ms: number): string;
}

/** The trail line of an event, or null for bookkeeping that means nothing to a reader. */
export function trailLine(e: RequestEvent, names: TrailNames): TrailLine | null {
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
  const people = (ids: readonly string[]) => ids.map(names.person).join(", ");
  const asked = (cs: readonly { person: string; for?: string }[]) =>
    cs
      .map((c) =>
        c.for ? `${names.person(c.person)} (covering for ${names.person(c.for)})` : names.person(c.person),
      )
      .join(", ");
  switch (e.type) {
    case "request started":
      return line("made the request");
    case "data changed":
      return line(
        `changed ${Object.keys(e.data).length === 1 ? "a value" : `${Object.keys(e.data).length} values`} in the form`,
        { tone: "quiet" },
      );
    case "way chosen":
      return line(`${names.step(e.step)}: ${e.name}`, { why: e.why });
    case "branches opened":
      return e.left.length > 0
        ? line(`${names.step(e.step)}: not needed: ${e.left.map((l) => l.name).join(", ")}`, {
            why: e.left.flatMap((l) => l.why),
          })
        : line(`${names.step(e.step)}: ${e.opened.length} side by side`, { tone: "quiet" });
    case "visit opened":
      return e.visit.due !== null && e.why?.length
        ? line(`${names.step(e.visit.step)}: limit ${names.time(e.visit.due)}`, { why: e.why, tone: "quiet" })
        : null;
    case "task opened":
      return line(
        e.task.purpose === "changes"
          ? `${asked(e.task.candidates)} is asked for changes`
          : `${names.step(e.task.step)}: ${asked(e.task.candidates)} ${e.task.candidates.length > 1 ? "are" : "is"} asked${e.task.due === null ? "" : `, until ${names.time(e.task.due)}`}`,
      );
    case "decider added":
      return line(`${names.step(e.task.step)}: ${asked(e.task.candidates)} is asked too, as the ladder says`);
    case "task taken":
      return line("took the task", { tone: "quiet" });
    case "task put back":
      return line("put the task back", { tone: "quiet" });
    case "task handed over":
      return line(
        e.rung ? `Handed over to ${asked(e.to)}, as the ladder says` : `handed over to ${asked(e.to)}`,
        { note: e.note },
      );
    case "answer given":
      return line(
        `${e.automatic ? "Answered on their behalf" : "answered"}: ${e.label}${e.for ? ` (for ${names.person(e.for)})` : ""}`,
        { note: e.note },
      );
    case "step decided":
      return e.given < 2
        ? null
        : line(`${names.step(e.step)}: ${e.label}, by ${e.given} answers`, { tone: "quiet", by: null });
    case "returned for changes":
      return line(`${names.step(e.step)}: sent back for changes`, { note: e.note });
    case "changes sent":
      return line(`${names.step(e.step)}: starts again with the changes`, { tone: "quiet" });
    case "values set":
      return line(
        `${names.step(e.step)}: ${Object.keys(e.data).length === 1 ? "a value was" : "values were"} set`,
        { tone: "quiet" },
      );
    case "written": {
      const by = (did: string) => e.records.filter((r) => r.did === did).map((r) => r.title);
      const parts = (["added", "changed", "removed", "left alone"] as const).flatMap((did) => {
        const titles = by(did);
        return titles.length > 0
          ? [
              `${did} ${titles.slice(0, 4).join(", ")}${titles.length > 4 ? ` and ${titles.length - 4} more` : ""}`,
            ]
          : [];
      });
      return line(`${names.step(e.step)}: ${parts.join("; ") || "nothing to write"}`);
    }
    case "told":
      return line(`${people(e.people)} ${e.people.length > 1 ? "were" : "was"} told`, { tone: "quiet" });
    case "rung fired":
      return e.did === "remind"
        ? line("A reminder was sent", { tone: "quiet" })
        : e.found
          ? null
          : line(`The ladder found nobody to ${e.did}`, { tone: "stuck" });
    case "got stuck":
      return line(stuckSentence(e.reason), { tone: "stuck" });
    case "got unstuck":
      return line(e.how === "retried" ? `retried ${names.step(e.step)}` : `skipped ${names.step(e.step)}`);
    case "request finished":
      return line(`Finished: ${e.result}`, { tone: e.tone === "plain" ? "plain" : e.tone });
    case "request withdrawn":
      return line("withdrew the request", { note: e.note, tone: "refuse" });
    case "request cancelled":
      return line("cancelled the request", { note: e.note, tone: "refuse" });
    default:
      return null;
  }
}

import type { EffectKind, ResultOf } from "@/steps/shapes";
import { KINDS } from "@/kinds";
import type { FormData } from "../form";
import type { Step } from "../route";
import {
  allTasks,
  compileRelease,
  decide,
  isEnded,
  isOpen,
  levelOf,
  levelsOf,
  NEW_REQUEST,
  newsOf,
  outsideId,
  releaseAt,
  waysOn,
  type Command,
  type Decision,
  type Level,
  type RequestEvent,
  type RequestState,
  type Task,
} from ".";
import { IDS, officeFacts } from "./testOffice";
import { PartsKept } from "./testParts";
import { proceduresOf } from "./testRequest";
import { build, type Made, type Shape } from "./testRoutes";
import { joinsHold, toldRightly } from "./testSound";

const T0 = Date.UTC(2026, 2, 3, 10, 0);
export const ROWS = [
  { "#": "1", what: "1", who: "carmel" },
  { "#": "2", what: "2", who: "declan" },
  { "#": "3", what: "2", who: "fergus" },
];

/** Some of the lines: the first ones, or the last. */
export const someRows = (n: number, from: number) => (from % 2 ? ROWS.slice(n % 4) : ROWS.slice(0, n % 4));

const said = (d: Decision) =>
  JSON.parse(JSON.stringify(d.ok ? { events: d.events, effects: d.effects } : d.refusal)) as unknown;

/** What comes of what is asked of the world. */
const resultOf = (kind: EffectKind): ResultOf<EffectKind> =>
  kind === "start request" ? { number: "OTH-1", result: "fine", values: [["b", "x"]] } : { records: [] };

/** Of what a step offers something was picked, or nothing, whoever stood there before. */
function pickedRightly(before: RequestState, c: Extract<Command, { type: "answer" }>, after: RequestState) {
  const was = levelOf(before, c.task);
  const task = was?.state.tasks[was.id];
  const offered = task && was.state.visits[task.visit]?.offers?.["who"];
  const now = levelOf(after, c.task);
  // After the end, and of a procedure that is over, nothing is kept.
  if (!offered || isEnded(was.state) || !now || c.answer !== "done") return;
  const rows = now.state.data["rows"];
  for (const row of Array.isArray(rows) ? rows : [])
    expect([null, undefined, "", ...offered]).toContain(row["who"]);
}

/** The answer that lets somebody go on, or another. */
export function answerTo({ purpose }: Pick<Task, "purpose">, agrees: boolean): string {
  if (purpose === "decide") return agrees ? "yes" : "no";
  return { changes: "sent", complete: "done", question: "said", advice: "said" }[purpose];
}

export class Run {
  state: RequestState = NEW_REQUEST;
  events: RequestEvent[] = [];
  /** Tasks that were done after the end of the request. */
  stayed = 0;
  at = T0;
  release;
  readonly procedures;
  constructor(shapes: Shape[]) {
    const made: Made = {};
    this.release = compileRelease(build(shapes, made), {}, KINDS);
    this.procedures = proceduresOf(made);
  }
  readonly kept = new PartsKept();
  send(c: Command) {
    const facts = { ...officeFacts(this.at), procedures: this.procedures };
    const d = decide(this.release, this.state, c, facts);
    if (c.type === "start") {
      if (d.ok) this.kept.keep(null, d.state);
    } else {
      // Whatever little of it was read, the same comes of it, and the same stands there afterwards.
      const partly = this.kept.decide(this.release, c, facts);
      expect([c, said(partly)]).toEqual([c, said(d)]);
      if (d.ok) expect(this.kept.all()).toEqual(JSON.parse(JSON.stringify(d.state)));
    }
    if (!d.ok) return d;
    if (c.type === "answer") pickedRightly(this.state, c, d.state);
    const news = newsOf(this.release, this.state, d.state, d.events, this.procedures);
    toldRightly(news, this.state, d.state, d.events);
    this.events.push(...d.events);
    this.state = this.kept.all();
    joinsHold(this, d.events);
    return d;
  }
  open = () => allTasks(this.state).filter(isOpen);
  /** Of the request and of all procedures, with ids as they are known outside. */
  private all<T>(of: (s: RequestState) => readonly T[], outside: (level: Level, x: T) => T): T[] {
    return levelsOf(this.state).flatMap((level) => of(level.state).map((x) => outside(level, x)));
  }
  private timers = () =>
    this.all(
      (s) => Object.values(s.timers),
      (l, x) => ({ ...x, id: outsideId(l, x.id) }),
    ).sort((a, b) => a.at - b.at);
  private pending = () =>
    this.all(
      (s) => Object.values(s.pending),
      (l, x) => ({ ...x, id: outsideId(l, x.id) }),
    );
  /** Where something stands: as outside it is known, and the step on its own release. */
  private standing<T extends { token: string; step: string }>(of: (s: RequestState) => readonly T[]) {
    return levelsOf(this.state).flatMap((level) =>
      of(level.state).map(({ token, step }) => ({
        token: outsideId(level, token),
        step: releaseAt(level, this.release, this.procedures).places.get(step)?.step,
      })),
    );
  }
  private stuck = () => this.standing((s) => s.stuck.filter((x) => !x.call));

  random(pick: () => number) {
    const any = <T>(xs: readonly T[]): T | undefined => xs[pick() % Math.max(xs.length, 1)];
    const task = any(allTasks(this.state));
    const actor = task && pick() % 4 ? (task.holder ?? any(task.candidates)!.person) : any(IDS)!;
    const timers = this.timers();
    const pending = any(this.pending());
    const visit = any(this.standing((s) => Object.values(s.visits)));
    const stuck = this.stuck()[0];
    switch (pick() % 15) {
      case 0:
      case 1:
      case 2:
      case 3:
        if (task)
          this.send({
            type: "answer",
            actor,
            task: task.id,
            answer: any(["yes", "no", "back", "done", "sent", "said"])!,
            note: "n",
            data: this.filledIn(pick),
          });
        break;
      case 4:
        if (task) this.send({ type: "take", actor, task: task.id });
        break;
      case 5:
        if (task) this.send({ type: "put back", actor, task: task.id });
        break;
      case 6:
        if (task) {
          const back = pick() % 2 === 0;
          this.send({ type: "hand over", actor, task: task.id, to: any(IDS)!, note: "", back });
        }
        break;
      case 7:
        if (timers[0]) {
          this.at = Math.max(this.at, timers[0].at);
          this.send({ type: "time reached", timer: timers[0].id });
        }
        break;
      case 8:
        if (pending)
          this.send(
            pick() % 3
              ? { type: "effect done", effect: pending, result: resultOf(pending.kind) }
              : {
                  type: "effect failed",
                  effect: pending.id,
                  reason: { code: "write-refused", data: { step: "", message: "no" } },
                },
          );
        break;
      case 9:
        if (stuck) this.goOn(stuck, pick() % 2 === 0, pick());
        else if (pick() % 12 === 0)
          this.send({ type: pick() % 2 ? "withdraw" : "cancel", actor: "una", note: "" });
        break;
      case 10:
        if (task) this.send({ type: "remind", actor: "owner", task: task.id, note: "" });
        if (task) this.send({ type: "reassign", actor: "owner", task: task.id, to: any(IDS)!, note: "w" });
        break;
      case 11: {
        const due = this.at + (1 + (pick() % 200)) * 3_600_000;
        if (task) this.send({ type: "change limit", actor: "owner", task: task.id, due, note: "w" });
        break;
      }
      case 12:
        if (visit && pick() % 3 === 0) this.goOn(visit, false, pick());
        break;
      case 14: {
        const to = pick() % 2 ? null : any(IDS)!;
        if (task) this.send({ type: "ask", actor, task: task.id, to, note: "Why?" });
        break;
      }
      case 13:
        if (stuck) this.send({ type: "name", actor: "owner", token: stuck.token, to: any(IDS)!, note: "w" });
        // The whole of a procedure that is stuck.
        else if (this.state.stuck[0])
          this.goOn({ token: this.state.stuck[0].token, step: undefined }, false, 0);
        break;
    }
  }

  /** What somebody fills in with an answer: mostly nothing, else lines or a note. */
  private filledIn(pick: () => number): FormData {
    switch (pick() % 6) {
      case 0:
        return { rows: someRows(pick(), pick()) };
      case 1:
      case 2:
        return { note: pick() % 3 ? "x" : "7" };
      default:
        return {};
    }
  }

  /** An owner tries again, or lets it go on, saying which way where the step decides something. */
  private goOn({ token, step }: { token: string; step: Step | undefined }, again: boolean, which: number) {
    if (again) return this.send({ type: "retry", actor: "una", token });
    const ways = step ? waysOn(KINDS, step) : [];
    const way = ways.length > 0 ? ways[which % ways.length]!.id : null;
    return this.send({ type: "skip", actor: "owner", token, way, note: "Because." });
  }

  /** Rows without those people that are not offered at a task: nobody could go on with them. */
  private pickable(task: string): FormData {
    const level = levelOf(this.state, task)!;
    const offered = level.state.visits[level.state.tasks[level.id]!.visit]?.offers?.["who"];
    const { rows } = level.state.data;
    if (!offered || !Array.isArray(rows)) return {};
    const fits = (who: unknown) => typeof who !== "string" || offered.includes(who);
    return { rows: rows.map((r) => (fits(r["who"]) ? r : { ...r, who: null })) };
  }

  /** Everybody agrees, every write succeeds, whatever is stuck is skipped: a sound route must end. */
  finish(): boolean {
    for (let i = 0; i < 400 && !isEnded(this.state); i++) {
      const pending = this.pending()[0];
      const stuck = this.stuck()[0];
      const task = this.open()[0];
      const asleep = this.timers().find((t) => t.id.endsWith(".wake"));
      const forEver = this.standing((s) => Object.values(s.sleeps))[0];
      if (pending) this.send({ type: "effect done", effect: pending, result: resultOf(pending.kind) });
      else if (stuck) this.goOn(stuck, false, 0);
      else if (task) {
        const actor = task.holder ?? task.candidates[0]!.person;
        const answer = answerTo(task, true);
        const data = this.pickable(task.id);
        const d = this.send({ type: "answer", actor, task: task.id, answer, note: "n", data });
        if (!d.ok) throw new Error(`could not answer: ${JSON.stringify(d.refusal)}`);
      } else if (asleep) this.send({ type: "time reached", timer: asleep.id });
      else if (forEver) this.goOn(forEver, false, 0);
      else return false;
    }
    // What stayed is done after the end, and changes nothing of it.
    const { result, data } = this.state;
    for (const left = this.open(); left.length > 0; left.pop()) {
      const task = left.at(-1)!;
      const actor = task.holder ?? task.candidates[0]!.person;
      const rows: FormData = { rows: someRows(task.openedAt, 3) };
      const answer = answerTo(task, true);
      const d = this.send({ type: "answer", actor, task: task.id, answer, note: "n", data: rows });
      if (!d.ok) throw new Error(`could not answer after the end: ${JSON.stringify(d.refusal)}`);
      this.stayed++;
    }
    expect([this.state.result, this.state.data, this.state.tokens]).toEqual([result, data, {}]);
    return isEnded(this.state);
  }
}

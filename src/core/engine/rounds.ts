import { isContext, isDate, isNum, readText, valueText, type Value } from "../expression";
import { findField, type FormData } from "../form";
import { stepKind, type RoundsToGo, type StoredValue } from "../kinds";
import { listsOf, type Step } from "../route";
import type { RequestState, Run, StuckReason } from "./state";
import { stepTurn } from "./stepTurn";
import { rowsIn, valueOf } from "./storedValue";
import { MOVES_BEFORE_PARKING, type Turn } from "./turn";
import { clearly } from "./unclear";
import { closeCall } from "./visit";

const countOf = (run: Pick<Run, "items">): number =>
  typeof run.items === "number" ? run.items : run.items.length;

/** Opens a run of rounds; what they go over is fixed by that. The first round is opened by whoever goes on with it. */
export function openRun(turn: Turn, token: string, step: Step, { items, ...rest }: RoundsToGo): string {
  const run = turn.newId("n");
  const { scope } = turn.at(token, step.id);
  turn.raise({ type: "run opened", run: { id: run, token, step: step.id, scope, items, ...rest } }, null);
  return run;
}

/** Whether another round may be opened now. Those that are stuck are passed by, unless the step says they hold. */
function hasRoom(turn: Turn, run: Run): boolean {
  if (run.closing || run.next >= countOf(run)) return false;
  if (run.atOnce === null) return true;
  if (run.stuckHolds) return run.open < run.atOnce;
  const s = turn.state.stuck.length > 0 ? turn.whole() : turn.state;
  const held = new Set(s.stuck.map((x) => outermost(s, x.token, run.id)));
  held.delete(null);
  return run.open - held.size < run.atOnce;
}

/** The round of a run that does not go on while a token stands where it does; null for none. */
function outermost(s: RequestState, token: string, run: string): string | null {
  for (let t = s.tokens[token]; t; t = t.parent === null ? undefined : s.tokens[t.parent]) {
    if (s.scopes[t.id]?.run === run) return t.id;
    // What nobody waits for keeps no round from going on.
    if (t.beside) return null;
  }
  return null;
}

/**
 * Opens the next round where there is room for one. A command opens only so many: then the run is parked, and a job goes
 * on with it.
 */
export function openNext(turn: Turn, id: string): void {
  for (;;) {
    const run = turn.state.runs[id];
    if (!run || run.parked) return;
    const step = turn.release.places.get(run.step)?.step;
    if (!step || !hasRoom(turn, run)) {
      endRun(turn, id);
      return;
    }
    if (turn.moved >= MOVES_BEFORE_PARKING) {
      turn.raise({ type: "run parked", run: id, step: run.step }, null);
      return;
    }
    turn.moved++;
    const item = typeof run.items === "number" ? null : run.items[run.next]!;
    if (isGone(turn.state, item)) {
      turn.raise({ type: "round left out", run: id, step: run.step, index: run.next }, null);
      continue;
    }
    const first = listsOf(step, turn.release.kinds).find((l) => l.id === run.list)?.steps[0];
    const token = turn.newId("k");
    const one = stepKind(turn.release.kinds, step).rounds?.one(step) ?? "";
    const round = { run: id, token, index: run.next, of: countOf(run), one, name: nameOf(turn, item, step) };
    turn.raise({ type: "round opened", ...round, step: first?.id ?? step.id }, null);
    // The round first, then whether there is room for another.
    turn.agenda.push({ run: id });
    turn.agenda.push(first ? { token, step: first } : { token, step: null, of: step.id });
    return;
  }
}

/** Whether a row of line items that a round goes over is not there any more. */
export const isGone = (s: RequestState, item: StoredValue): boolean => {
  const rows = rowsIn(item);
  const there = ({ lines, row }: { lines: string; row: string }) => {
    const data = s.data[lines];
    return Array.isArray(data) && data.some((r) => r["#"] === row);
  };
  // Of several that go together those that are left count.
  return rows.length > 0 && !rows.some(there);
};

/** The rows of line items that a round and those around it go over; none outside of all rounds. */
export function itemOf(s: RequestState, scope: string | undefined): { lines: string; row: string }[] {
  const at = scope === undefined ? undefined : s.scopes[scope];
  if (!at) return [];
  const items = s.runs[at.run]?.items;
  const own = typeof items === "object" ? rowsIn(items[at.index] ?? null) : [];
  return own.length > 0 ? own : itemOf(s, at.parent ?? undefined);
}

/** Whether a token goes through a round of this step: it stands there only when its round cannot be ended. */
export const isRoundOf = (s: RequestState, token: string, step: string): boolean => {
  const scope = s.scopes[token];
  return scope !== undefined && s.runs[scope.run]?.step === step;
};

/**
 * A round has come to its end.
 * @param without an owner lets it go without what it should leave behind
 * @returns why it cannot be told what it leaves behind
 */
export function endRound(turn: Turn, token: string, without = false): StuckReason | null {
  const run = turn.state.runs[turn.state.scopes[token]!.run]!;
  const step = turn.release.places.get(run.step)?.step;
  const rounds = step && stepKind(turn.release.kinds, step).rounds;
  const at = { step: run.step, scope: token };
  const came =
    step && rounds && !without
      ? clearly(() => rounds.ended(stepTurn(turn, at), step))
      : { left: undefined, enough: false };
  if ("go" in came) return came.reason;
  const { left, enough } = came;
  const behind = left === undefined ? {} : { left };
  leaveBeside(turn, token, run.token);
  turn.raise({ type: "round ended", run: run.id, token, step: run.step, ...behind }, null, token);
  if (enough) {
    turn.raise({ type: "run closing", run: run.id, step: run.step }, null);
    for (const t of Object.values(turn.whole().tokens))
      if (turn.state.scopes[t.id]?.run === run.id) callOff(turn, t.id, "enough");
  }
  turn.agenda.push({ run: run.id });
  return null;
}

/** Ends a run where nothing of it is under way any more. */
function endRun(turn: Turn, id: string): void {
  const run = turn.state.runs[id]!;
  if (run.open > 0) return;
  const left = [...run.collected].sort(([a], [b]) => a - b).map(([, v]) => v);
  turn.raise({ type: "run ended", run: id, step: run.step }, null);
  turn.agenda.push({ left, of: run });
}

/**
 * A token is about to end: branches that run beside it go no further than it, and what somebody is asked for beside it
 * is kept beside what is around it.
 */
export function leaveBeside(turn: Turn, token: string, around: string | null): void {
  for (const t of Object.values(turn.state.tokens)) {
    if (!t.beside || t.parent !== token) continue;
    if ((t.errand || t.late) && around !== null)
      turn.raise({ type: "errand kept", token: t.id, step: t.step, parent: around }, null);
    else callOff(turn, t.id, "enough");
  }
}

/** Takes a token away with all it waits for, and those that go on for it. */
export function callOff(turn: Turn, token: string, why: "enough" | "gone"): void {
  for (const t of Object.values(turn.whole().tokens)) if (t.parent === token) callOff(turn, t.id, why);
  for (const v of Object.values(turn.state.visits)) {
    if (v.token !== token) continue;
    for (const t of Object.values(turn.state.tasks))
      if (t.visit === v.id && (t.status === "open" || t.status === "taken"))
        turn.raise({ type: "task closed", task: t.id, reason: why }, null);
    for (const timer of Object.values(turn.state.timers))
      if (timer.visit === v.id) turn.raise({ type: "timer cleared", timer: timer.id }, null);
  }
  for (const z of Object.values(turn.state.sleeps))
    if (z.token === token) turn.raise({ type: "timer cleared", timer: `${z.id}.wake` }, null);
  for (const c of Object.values(turn.state.calls))
    if (c.token === token && !c.over) closeCall(turn, c.id, true);
  const t = turn.state.tokens[token];
  if (t) turn.raise({ type: "token called off", token, step: t.step, why }, null);
}

/** Whether rows that were there have gone. */
const rowsWent = (before: FormData, after: FormData): boolean =>
  Object.entries(before).some(([id, rows]) => {
    if (!Array.isArray(rows) || rows === after[id]) return false;
    const now = after[id];
    const left = new Set(Array.isArray(now) ? now.map((r) => r["#"]) : []);
    return rows.some((r) => !left.has(r["#"]));
  });

/**
 * Calls off the rounds whose rows somebody has taken away, and goes on where that was what was waited for.
 * @param before what the form held until now
 */
export function endLostRounds(turn: Turn, before: FormData): void {
  if (Object.keys(turn.state.runs).length === 0 || !rowsWent(before, turn.state.data)) return;
  for (const scope of Object.values(turn.whole().scopes)) {
    const run = turn.state.runs[scope.run];
    if (!run || typeof run.items === "number" || !turn.state.scopes[scope.id]) continue;
    if (!isGone(turn.state, run.items[scope.index] ?? null)) continue;
    callOff(turn, scope.id, "gone");
    turn.agenda.push({ run: run.id });
  }
}

/**
 * What a round is about, to be read by everybody: empty where it may tell of a field that is hidden from somebody. Of a
 * row the first column that says something.
 */
function nameOf(turn: Turn, item: StoredValue, step: Step): string {
  const { release, facts } = turn;
  const { rounds } = stepKind(release.kinds, step);
  if (!rounds || item === null) return "";
  const behind = rounds.behind(step).map((b) => turn.formula(step.id, b.place, b.formula));
  if (behind.some((f) => f && turn.hides(f))) return "";
  const of = rounds.about(step, item);
  const row = typeof of === "object" && of !== null && "lines" in of ? of : null;
  if (!row) return shortText(valueOf(of, facts, () => null));
  const field = findField(release.definition.fields, row.lines)?.field;
  const rows = turn.state.data[row.lines];
  const at = Array.isArray(rows) ? rows.findIndex((r) => r["#"] === row.row) : -1;
  const values = field && turn.evaluated().names.get(field.name);
  const value = Array.isArray(values) ? ((values as readonly Value[])[at] ?? null) : null;
  if (!isContext(value)) return "";
  for (const c of field?.fields ?? []) {
    if (release.hidesAny([row.lines, c.id]) || c.worked) continue;
    const text = shortText(value.get(c.name) ?? null);
    if (text) return text;
  }
  return "";
}

/** Longest name of a round. */
const LONGEST = 80;
function shortText(v: Value): string {
  if (v === null || typeof v === "boolean") return "";
  if (isContext(v)) {
    const name = v.get("name");
    return typeof name === "string" ? cut(name) : "";
  }
  if (Array.isArray(v)) return "";
  return cut(isNum(v) || isDate(v) ? readText(v) : valueText(v));
}
const cut = (text: string): string => {
  const line = text.replace(/\s+/g, " ").trim();
  return line.length > LONGEST ? `${line.slice(0, LONGEST - 1)}…` : line;
};

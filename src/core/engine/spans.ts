import { stepKind } from "../kinds";
import type { Limit } from "../route";
import { dueFor } from "./dueFor";
import { ladderDates, timersOf } from "./ladder";
import type { CompiledRelease } from "./release";
import { isEnded, type RequestState, type Span } from "./state";
import type { Turn } from "./turn";
import { clearly } from "./unclear";

/** What of a route has a limit as a whole. */
interface Spanned {
  /** Of the whole request. */
  whole: Limit | undefined;
  /** Of parts, by their ids; of those in rounds none counts. */
  parts: ReadonlyMap<string, Limit>;
}
const known = new WeakMap<CompiledRelease, Spanned>();
function spannedBy(release: CompiledRelease): Spanned {
  const kept = known.get(release);
  if (kept) return kept;
  const { kinds, places, definition } = release;
  const parts = new Map<string, Limit>();
  for (const [id, { step, owners }] of places) {
    const limit = stepKind(kinds, step).span?.(step);
    if (limit && !owners.some((o) => stepKind(kinds, o.step).rounds)) parts.set(id, limit);
  }
  const made = { whole: definition.limit, parts };
  known.set(release, made);
  return made;
}

/** The limit of a part, or of the whole request (""). */
export const spanLimit = (release: CompiledRelease, step: string): Limit | undefined =>
  step === "" ? spannedBy(release).whole : spannedBy(release).parts.get(step);

const keyOf = ({ step, token }: Pick<Span, "step" | "token">): string => `${step} ${token ?? ""}`;

/** What is under way by where tokens stand: the outermost of them in each part. */
function underWay(turn: Turn): Map<string, Pick<Span, "step" | "token">> {
  const { state, release } = turn;
  const out = new Map<string, Pick<Span, "step" | "token">>();
  const put = (of: Pick<Span, "step" | "token">) => out.set(keyOf(of), of);
  if (isEnded(state) || state.status === "new") return out;
  const { whole, parts } = spannedBy(release);
  if (whole) put({ step: "", token: null });
  if (parts.size === 0) return out;
  const within = (token: string | null): readonly string[] =>
    (token === null ? undefined : release.places.get(state.tokens[token]?.step ?? ""))?.owners.map(
      (o) => o.step.id,
    ) ?? [];
  for (const t of Object.values(state.tokens)) {
    if (t.scope !== undefined || t.errand) continue;
    const around = within(t.parent);
    for (const id of within(t.id)) if (parts.has(id) && !around.includes(id)) put({ step: id, token: t.id });
  }
  return out;
}

/**
 * Opens the limits of parts that were come to and of the whole, and closes those of what was left. Told by where tokens
 * stand after a command, so that no way into a part or out of it can forget it: jumps, returns, what is called off, the end.
 * Whoever is in a part again by the same command has never left it.
 */
export function keepSpans(turn: Turn): void {
  const { spans = {} } = turn.state;
  const { whole, parts } = spannedBy(turn.release);
  if (!whole && parts.size === 0 && Object.keys(spans).length === 0) return;
  const now = underWay(turn);
  for (const s of Object.values(spans)) if (!now.delete(keyOf(s))) closeSpan(turn, s);
  for (const of of now.values()) openSpan(turn, of);
}

/** Closes all: it ends. */
export function closeSpans(turn: Turn): void {
  for (const s of Object.values(turn.state.spans ?? {})) closeSpan(turn, s);
}

function closeSpan(turn: Turn, span: Span): void {
  clearTimersOf(turn, span.id);
  turn.raise({ type: "span closed", span: span.id, step: span.step }, null);
}

function clearTimersOf(turn: Turn, span: string): void {
  for (const t of Object.values(turn.state.timers))
    if (t.visit === span) turn.raise({ type: "timer cleared", timer: t.id }, null);
}

function openSpan(turn: Turn, { step, token }: Pick<Span, "step" | "token">): void {
  const limit = spanLimit(turn.release, step)!;
  const { at } = turn.facts;
  const calendar = turn.facts.calendar(turn.release.definition.calendar);
  const reached = clearly(() => dueFor(turn, { step, scope: null }, limit, calendar));
  const id = turn.newId("n");
  const of = { id, step, token, openedAt: at };
  // Nobody is kept from going on because it cannot be told by when all of it should be done; the trail says why.
  if ("go" in reached) {
    turn.raise({ type: "span opened", span: { ...of, due: null }, unclear: reached.reason }, null);
    return;
  }
  const dates = ladderDates(calendar, at, reached.due, limit.rungs);
  const why = reached.why.length > 0 ? { why: reached.why } : {};
  turn.raise({ type: "span opened", span: { ...of, due: dates.due }, ...why }, null);
  for (const timer of timersOf(id, dates)) turn.raise({ type: "timer set", timer }, null);
}

/** Ids of the tokens that stand in what a span is of. */
export function tokensIn(s: Pick<RequestState, "tokens">, release: CompiledRelease, span: Span): Set<string> {
  const inside = Object.values(s.tokens).filter(
    (t) => span.step === "" || release.places.get(t.step)?.owners.some((o) => o.step.id === span.step),
  );
  return new Set(inside.map((t) => t.id));
}

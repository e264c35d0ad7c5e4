import { splitCall } from "./callIds";
import type { Command } from "./commands";
import type { RequestState, Run, Scope } from "./state";

/** Unopened rounds of which a command may open some: more than one does. */
const MOST_OPENED = 600;

/** A command, or an effect that is being carried out. */
export type Touching = Command | { type: "effect"; effect: string };

/** The token something is of, or the one that waits for the procedure it is in. */
function tokenOf(s: RequestState, id: string, own: (id: string) => string | undefined): string | undefined {
  const into = splitCall(id);
  return into ? s.calls[into.call]?.token : own(id);
}

function whoseTimer(s: RequestState, id: string) {
  const of = s.timers[id]?.visit ?? "";
  return s.visits[of] ?? s.sleeps[of];
}

/** The tokens a command begins with; null where it may be any. */
function tokensOf(s: RequestState, c: Touching): (string | undefined)[] | null {
  switch (c.type) {
    case "ask others":
    case "look":
    case "remove files":
    // What waits for it may sleep anywhere.
    case "replied":
      return null;
    case "go on":
      return Object.values(s.runs).flatMap((r) => (r.parked ? [r.token] : []));
    case "start":
    case "withdraw":
    case "cancel":
    case "call off":
      return [];
    case "time reached":
      return [tokenOf(s, c.timer, (id) => whoseTimer(s, id)?.token)];
    case "effect done":
      return [tokenOf(s, c.effect.id, (id) => s.pending[id]?.token)];
    case "effect":
    case "effect failed":
      return [tokenOf(s, c.effect, (id) => s.pending[id]?.token)];
    case "not delivered":
      return [tokenOf(s, c.effect.id, () => c.effect.scope ?? undefined)];
    case "retry":
    case "name":
    case "skip":
      return [tokenOf(s, c.token, (id) => id)];
    case "answer":
    case "take":
    case "put back":
    case "take back":
    case "hand over":
    case "ask":
    case "reassign":
    case "remind":
    case "change limit":
      return [tokenOf(s, c.task, (id) => s.tasks[id]?.token)];
  }
}

/**
 * The rounds whose values a command may read, those around them included, and runs of which it may open rounds: of a
 * request with hundreds of rounds only these need their records read.
 */
export function scopesTouched(s: RequestState, c: Touching): { scopes: Scope[]; runs: Run[] } {
  // Whatever a command does, what is waited for may have come by it.
  const tokens = s.awaits ? null : tokensOf(s, c);
  const ids = new Set<string>();
  const around = (id: string | null | undefined) => {
    for (let at = id; at && !ids.has(at); at = s.scopes[at]?.parent) ids.add(at);
  };
  if (tokens === null) for (const id of Object.keys(s.scopes)) ids.add(id);
  else for (const t of tokens) if (t !== undefined) around(s.tokens[t]?.scope);
  const runs = Object.values(s.runs).filter((r) => r.scope === null || ids.has(r.scope));
  return { scopes: [...ids].flatMap((id) => s.scopes[id] ?? []), runs };
}

/** What a run's rounds go over that may be read: those in these rounds, and those that may be opened. */
export function itemsRead(s: RequestState, { scopes, runs }: ReturnType<typeof scopesTouched>) {
  const opened = scopes.flatMap(({ run, index }) => {
    const items = s.runs[run]?.items;
    return typeof items === "object" ? [items[index] ?? null] : [];
  });
  const ahead = runs.flatMap((r) =>
    typeof r.items === "object" && !r.closing ? r.items.slice(r.next, r.next + MOST_OPENED) : [],
  );
  return [...opened, ...ahead];
}

import { stepKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { following, listsOf, stepGoesOn, type StepPlace } from "./tree";

/** The ways a request can take through a route, whatever its conditions come to. */
export interface Flow {
  /** By step: the steps that can come next. */
  next: ReadonlyMap<string, readonly string[]>;
  /** Steps from which the request can end. */
  ends: ReadonlySet<string>;
  /** Steps a request can come to. */
  reached: ReadonlySet<string>;
  /** Steps from which an end can be reached. */
  ending: ReadonlySet<string>;
  /** Whether one step can come before another, at the same time in another branch, or in another round. */
  mayPrecede(a: string, b: string): boolean;
  /** The same within one round: what steps come to there is known to no other. */
  mayPrecedeInRound(a: string, b: string): boolean;
}

export function flowOf(
  d: Pick<ProcessDefinition, "route">,
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
): Flow {
  const next = new Map<string, readonly string[]>();
  const ends = new Set<string>();
  /** What comes behind a step; where a branch ends, what comes behind all of them. */
  const behind = (id: string): string | null => {
    const after = following(places, id);
    if (after === null) return null;
    if (after !== "branch end") return after.id;
    const together = nearestBranches(places, id);
    // Another branch ends the request; this one only waits for it.
    return together && stepGoesOn(together.step, kinds) ? behind(together.step.id) : null;
  };
  for (const [id, { step }] of places) {
    const to = new Set<string>();
    const leads = (target: string | null) => {
      if (target === null) ends.add(id);
      else if (places.has(target)) to.add(target);
    };
    const exit = stepKind(kinds, step).exit(step);
    for (const target of stepKind(kinds, step).mayGo?.(step) ?? []) leads(target);
    if (exit) leads("to" in exit ? exit.to : null);
    else {
      const lists = listsOf(step, kinds);
      for (const l of lists)
        if (l.back) to.add(id);
        else leads(l.steps[0]?.id ?? behind(id));
      if (lists.length === 0 || stepKind(kinds, step).lists?.passedBy) leads(behind(id));
    }
    next.set(id, [...to]);
  }
  const first = d.route[0]?.id;
  const reached = first === undefined ? new Set<string>() : closure([first], (id) => next.get(id) ?? []);
  const into = new Map<string, string[]>();
  for (const [from, targets] of next) for (const t of targets) into.set(t, [...(into.get(t) ?? []), from]);
  const ending = closure([...ends], (id) => into.get(id) ?? []);
  const after = new Map<string, ReadonlySet<string>>();
  const comesTo = (a: string, b: string): boolean => {
    let all = after.get(a);
    if (!all) after.set(a, (all = closure(next.get(a) ?? [], (id) => next.get(id) ?? [])));
    return all.has(b);
  };
  const cutShort = (id: string) =>
    (places.get(id)?.owners ?? []).filter(({ step }) => {
      const { rounds, lists } = stepKind(kinds, step);
      return rounds !== undefined || lists?.joins?.early(step);
    });
  // A round or branch may be called off wherever it stands, and then what is behind all of them comes next.
  const reaches = (a: string, b: string): boolean =>
    comesTo(a, b) ||
    cutShort(a).some((o) => comesTo(o.step.id, b) && !cutShort(b).some((x) => x.step === o.step)) ||
    beside(a, b);
  /** Whether the second stands in a branch that may run on beside the first, which comes behind all of them. */
  const beside = (a: string, b: string): boolean =>
    (places.get(b)?.owners ?? []).some(({ step }) => {
      const { lists } = stepKind(kinds, step);
      return lists?.joins?.early(step) && lists.joins.othersRunOn(step) && comesTo(step.id, a);
    });
  return {
    next,
    ends,
    reached,
    ending,
    mayPrecede: (a, b) =>
      reaches(a, b) || standBeside(places.get(a), places.get(b)) || inSameRounds(places, kinds, a, b),
    mayPrecedeInRound: (a, b) => reaches(a, b) || standBeside(places.get(a), places.get(b)),
  };
}

/** Whether two steps stand in rounds of one step: another round may come to either at any time. */
function inSameRounds(places: ReadonlyMap<string, StepPlace>, kinds: Kinds, a: string, b: string): boolean {
  const others = new Set(places.get(b)?.owners.map((o) => o.step.id));
  return (places.get(a)?.owners ?? []).some(
    (o) => stepKind(kinds, o.step).rounds !== undefined && others.has(o.step.id),
  );
}

function nearestBranches(places: ReadonlyMap<string, StepPlace>, id: string) {
  const owners = places.get(id)?.owners ?? [];
  const at = owners.findLastIndex((o) => o.sideBySide);
  return at < 0 ? null : owners[at]!;
}

/** Whether two steps stand in different branches of one step. */
export const standBeside = (a: StepPlace | undefined, b: StepPlace | undefined): boolean =>
  (a?.owners ?? []).some((o) => {
    const other = b?.owners.find((x) => x.step.id === o.step.id);
    return o.sideBySide && other !== undefined && other.list !== o.list;
  });

function closure(from: readonly string[], next: (id: string) => readonly string[]): ReadonlySet<string> {
  const seen = new Set(from);
  const todo = [...from];
  for (let id = todo.pop(); id !== undefined; id = todo.pop())
    for (const n of next(id))
      if (!seen.has(n)) {
        seen.add(n);
        todo.push(n);
      }
  return seen;
}

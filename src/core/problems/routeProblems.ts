import { isReadByName, stepKind, type Kinds, type LiveProcedure, type OfficeFacts, type Say } from "../kinds";
import { flatFields, REQUEST_SCOPE, type Registers } from "../form";
import {
  branchesAround,
  flowOf,
  listGoesOn,
  type Flow,
  type ProcessDefinition,
  type RouteScopes,
  type Step,
  type StepPlace,
} from "../route";
import { place, type Problem } from "./problem";

interface Around {
  kinds: Kinds;
  registers: Registers;
  scopes: RouteScopes;
  procedures: Readonly<Record<string, LiveProcedure>> | undefined;
  office: OfficeFacts | undefined;
}

/** What is wrong with the route: what leads nowhere, what nothing leads to, what is not said. */
export function routeProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { kinds, registers, scopes, procedures, office }: Around,
  out: Problem[],
) {
  const last = d.route.at(-1);
  if (last && listGoesOn(kinds)(d.route)) out.push(noFinish(last, places, kinds));
  const flow = flowOf(d, places, kinds);
  // The first of them says it for all that follow.
  const stuck = [...places.keys()].find((id) => flow.reached.has(id) && !flow.ending.has(id));
  for (const p of places.values()) {
    const { step } = p;
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    if (!flow.reached.has(step.id) && leadsUpTo(p, flow))
      out.push({
        severity: "error",
        code: "unreachable",
        where: place("step", step.id),
        message: unreachable(p, places),
        mend: { label: "Remove this step", edit: { op: "step.remove", id: step.id } },
      });
    if (step.id === stuck)
      out.push({
        severity: "error",
        code: "never-ends",
        where: place("step", step.id),
        message: `From here a request can never come to an end: whatever anybody answers leads back.`,
      });
    const namesake = isReadByName(kinds, step) && nameOfOther(step.name, d);
    if (namesake)
      say(
        "error",
        "name-twice",
        `${namesake} is called "${step.name}" too; formulas that read it never read what this step came to. Rename one of them.`,
        "name",
      );
    stepKind(kinds, step).problems(step, {
      definition: d,
      registers,
      scope: scopes.at(step.id),
      procedures,
      office,
      say,
      reach: (to) => {
        const target = places.get(to);
        if (!target) return { ok: false, why: "unknown" };
        if (branchesAround(target).join() !== branchesAround(p).join())
          return { ok: false, why: "across", number: target.number };
        return spins(step.id, places, flow, kinds) ? { ok: false, why: "endless" } : { ok: true };
      },
    });
  }
}

/** What else formulas read by this name. */
function nameOfOther(name: string, d: ProcessDefinition): string | null {
  if (flatFields(d.fields).some((f) => f.name === name)) return "A field";
  return Object.hasOwn(REQUEST_SCOPE, name) ? "Something every request has" : null;
}

function noFinish(last: Step, places: ReadonlyMap<string, StepPlace>, kinds: Kinds): Problem {
  let n = 1;
  while (places.has(`finish-${n}`)) n++;
  return {
    severity: "warning",
    code: "no-finish",
    where: place("step", last.id),
    message: `The route runs off its end here; the request would end as "Done".`,
    mend: {
      label: "Add a Finish",
      edit: {
        op: "step.add",
        to: { owner: null, list: null },
        after: last.id,
        step: { ...kinds.steps.finish.blank(`finish-${n}`), result: "Done" } as Step,
      },
    },
  };
}

/** Of steps nothing leads to, the first in its list, where what holds the list is reached. */
function leadsUpTo(p: StepPlace, flow: Flow): boolean {
  const before = p.list[p.index - 1];
  if (before) return flow.reached.has(before.id);
  const owner = p.owners.at(-1);
  return owner === undefined || flow.reached.has(owner.step.id);
}
function unreachable(p: StepPlace, places: ReadonlyMap<string, StepPlace>): string {
  const before = p.list[p.index - 1];
  return before
    ? `Nothing leads here: step ${places.get(before.id)!.number} never goes on.`
    : "Nothing leads here.";
}

/** Whether steps that ask nobody and do not sleep lead from a step back to itself. */
function spins(from: string, places: ReadonlyMap<string, StepPlace>, flow: Flow, kinds: Kinds): boolean {
  const seen = new Set<string>();
  const visit = (id: string): boolean => {
    const step = places.get(id)?.step;
    if (!step) return false;
    const { asks, woken, calls } = stepKind(kinds, step);
    // A procedure may ask somebody; one that does not is found when it runs.
    if (woken || calls || (asks && !asks.beside?.(step))) return false;
    return (flow.next.get(id) ?? []).some((n) => {
      if (n === from) return true;
      if (seen.has(n)) return false;
      seen.add(n);
      return visit(n);
    });
  };
  return visit(from);
}

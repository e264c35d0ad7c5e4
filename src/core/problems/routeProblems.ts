import type { Scope } from "../expression";
import { stepKind, type Kinds, type Say } from "../kinds";
import type { Registers } from "../form";
import {
  branchesAround,
  following,
  listGoesOn,
  listsOf,
  stepGoesOn,
  type ProcessDefinition,
  type Step,
  type StepPlace,
} from "../route";
import { place, type Problem } from "./problem";

interface Around {
  kinds: Kinds;
  registers: Registers;
  scope: Scope;
}

/** What is wrong with the route: what leads nowhere, what nothing leads to, what is not said. */
export function routeProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { kinds, registers, scope }: Around,
  out: Problem[],
) {
  const last = d.route.at(-1);
  if (last && listGoesOn(kinds)(d.route)) out.push(noFinish(last, places, kinds));
  for (const p of places.values()) {
    const { step } = p;
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const next = p.list[p.index + 1];
    if (next && !stepGoesOn(step, kinds))
      out.push({
        severity: "error",
        code: "unreachable",
        where: place("step", next.id),
        message: `Nothing leads here: step ${p.number} never goes on.`,
        mend: { label: "Remove this step", edit: { op: "step.remove", id: next.id } },
      });
    stepKind(kinds, step).problems(step, {
      definition: d,
      registers,
      scope,
      say,
      reach: (to) => {
        const target = places.get(to);
        if (!target) return { ok: false, why: "unknown" };
        if (branchesAround(target).join() !== branchesAround(p).join())
          return { ok: false, why: "across", number: target.number };
        return spins(step.id, places, kinds) ? { ok: false, why: "endless" } : { ok: true };
      },
    });
  }
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

/** Whether steps that ask nobody lead from a step back to itself. */
function spins(from: string, places: ReadonlyMap<string, StepPlace>, kinds: Kinds): boolean {
  const seen = new Set<string>();
  const visit = (id: string): boolean => {
    const step = places.get(id)?.step;
    if (!step || stepKind(kinds, step).asks) return false;
    return nextOf(step, places, kinds).some((n) => {
      if (n === from) return true;
      if (seen.has(n)) return false;
      seen.add(n);
      return visit(n);
    });
  };
  return visit(from);
}

function nextOf(step: Step, places: ReadonlyMap<string, StepPlace>, kinds: Kinds): string[] {
  const exit = stepKind(kinds, step).exit(step);
  if (exit) return "to" in exit ? [exit.to] : [];
  const after = following(places, step.id);
  const behind =
    after === "branch end" ? following(places, places.get(step.id)!.owners.at(-1)!.step.id) : after;
  const firsts = listsOf(step, kinds).flatMap((l) => (l.steps[0] ? [l.steps[0].id] : []));
  return behind && behind !== "branch end" ? [...firsts, behind.id] : firsts;
}

import type { RuleKind } from "@/rules/shapes";
import type { RungKind } from "@/rungs/shapes";
import type { StartKind } from "@/starts/shapes";
import type { StepKind } from "@/steps/shapes";
import type { Rule, RungAction, Start, Step } from "../route/definition";
import type { FieldKinds } from "../form/fieldBehaviour";
import type { RuleBehaviour } from "./ruleBehaviour";
import type { RungBehaviour } from "./rungBehaviour";
import type { StartBehaviour } from "./startBehaviour";
import type { AnyStep } from "./stepBehaviour";

export type AnyRule = RuleBehaviour<RuleKind, Rule>;
export type AnyRung = RungBehaviour<RungKind, RungAction>;
export type AnyStart = StartBehaviour<StartKind, Start>;

/** All kinds a definition may be made of. Core is handed them and knows none by name. */
export interface Kinds {
  fields: FieldKinds;
  steps: Readonly<Record<StepKind, AnyStep>>;
  rules: Readonly<Record<RuleKind, AnyRule>>;
  rungs: Readonly<Record<RungKind, AnyRung>>;
  starts: Readonly<Record<StartKind, AnyStart>>;
}

function known<T>(list: Readonly<Record<string, T>>, kind: string, what: string): T {
  const found = Object.hasOwn(list, kind) ? list[kind] : undefined;
  // The schemas refuse such a definition; getting here means a list of kinds that misses one.
  if (!found) throw new Error(`there is no ${what} of the kind "${kind}"`);
  return found;
}
export const stepKind = (kinds: Kinds, s: Pick<Step, "kind">): AnyStep => known(kinds.steps, s.kind, "step");
/** Whether it is only a heading over others: no step to anybody who reads the route. */
export const isHeading = (kinds: Kinds, s: Pick<Step, "kind">): boolean =>
  stepKind(kinds, s).heading === true;
export const ruleKind = (kinds: Kinds, r: Rule): AnyRule => known(kinds.rules, r.by, "rule");
/** Whether a rule does not say yet who is meant. */
export const isEmptyRule = (kinds: Kinds, r: Rule): boolean =>
  ruleKind(kinds, r).empty(r, (x) => isEmptyRule(kinds, x));
export const rungKind = (kinds: Kinds, a: RungAction): AnyRung => known(kinds.rungs, a.do, "rung");
export const startKind = (kinds: Kinds, s: Start): AnyStart => known(kinds.starts, s.kind, "start");
/** Whether formulas read by the name of a step what it came to. */
export const isReadByName = (kinds: Kinds, s: Step): boolean => {
  const { asks, gives, isReadByName: reads } = stepKind(kinds, s);
  return asks !== null || (gives !== undefined && (reads?.(s) ?? true));
};

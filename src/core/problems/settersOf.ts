import { flatFields, type AccessOf, type Field } from "../form";
import { stepKind } from "../kinds";
import { accessAt, type ProcessDefinition, type Step, type StepPlace, type Surrounding } from "../route";

/** Line items of which some columns can be filled in. */
const isFilledInside = (f: Field, access: AccessOf): boolean =>
  f.kind === "lines" && flatFields(f.fields ?? []).some((c) => access(c.id) === "edit");

/**
 * By the id of a field, the steps that give it a value, for fields that are empty after the start.
 * @param atStart the access with which it begins
 */
export function settersOf(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { kinds }: Surrounding,
  atStart: AccessOf,
): ReadonlyMap<string, readonly string[]> {
  let all: { step: Step; access: AccessOf }[] | null = null;
  const steps = () =>
    (all ??= [...places.values()].map(({ step }) => ({ step, access: accessAt(d, step.id) })));
  const out = new Map<string, string[]>();
  for (const f of flatFields(d.fields)) {
    if (f.worked || atStart(f.id) === "edit" || isFilledInside(f, atStart)) continue;
    const setting = steps().filter(
      ({ step, access }) =>
        (stepKind(kinds, step).asks && (access(f.id) === "edit" || isFilledInside(f, access))) ||
        stepKind(kinds, step).sets(step).includes(f.id),
    );
    out.set(
      f.id,
      setting.map(({ step }) => step.id),
    );
  }
  return out;
}

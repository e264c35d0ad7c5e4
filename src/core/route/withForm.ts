import type { StepForm } from "../form";
import type { ProcessDefinition } from "./definition";

/** What of the form is shown at a step; one of which nothing is said is left out, so that equal documents are equal text. */
export function withForm(d: ProcessDefinition, step: string, form: StepForm): ProcessDefinition {
  const { forms = {}, ...rest } = d;
  const { [step]: _old, ...others } = forms;
  const next = Object.keys(form).length > 0 ? { ...forms, [step]: form } : others;
  return Object.keys(next).length > 0 ? { ...rest, forms: next } : rest;
}

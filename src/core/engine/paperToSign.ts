import { findField, labelOf, type FormData, type FormProblem } from "../form";
import { stepKind, type StoredValue } from "../kinds";
import type { Step } from "../route";
import type { StuckReason, Visit } from "./state";
import type { At, Turn } from "./turn";

/**
 * The document whose pages are shown where people are asked to sign it, fixed then: whoever signs has signed what they saw,
 * whatever is drawn up meanwhile.
 * @returns why there is nothing to be signed
 */
export function paperToSign(turn: Turn, at: At, step: Step): Pick<Visit, "paper"> | StuckReason {
  const signs = stepKind(turn.release.kinds, step).asks?.signs?.(step);
  // Of a sample nothing is drawn up.
  if (!signs || turn.facts.waivesRecords) return {};
  const of = turn.release.places.get(signs.document)?.step;
  const file =
    of && stepKind(turn.release.kinds, of).pages?.(of) ? pdfOf(keptIn(turn, at.scope, of.id)) : null;
  if (file === null)
    return { code: "nothing-to-sign", data: { step: step.name, document: of?.name ?? signs.document } };
  return { paper: { file, field: signs.field } };
}

/** What a step keeps, in this round or else in those around it. */
function keptIn(turn: Turn, scope: string | null, step: string): StoredValue {
  for (let id = scope; ;) {
    const values = id === null ? turn.state : turn.state.scopes[id];
    const kept = values && Object.hasOwn(values.kept, step) ? values.kept[step] : undefined;
    if (kept) return "value" in kept ? kept.value : null;
    if (id === null) return null;
    id = turn.state.scopes[id]?.parent ?? null;
  }
}

/** Of several files the PDF is the first. */
function pdfOf(v: StoredValue): string | null {
  if (typeof v !== "object" || v === null) return null;
  if ("list" in v) return pdfOf(v.list[0] ?? null);
  return "of" in v && v.of === "file" ? v.id : null;
}

/** A signature given for another document is none for this one: it is given anew. */
export function emptySignature(turn: Turn, at: At, paper: Visit["paper"]): void {
  if (paper === undefined || !turn.state.data[paper.field]) return;
  turn.raise({ type: "values set", step: at.step, data: { [paper.field]: null } }, null, at.scope);
}

/**
 * Where a document is to be signed: that it is not.
 * @param after with what was filled in; a signature that stood there before was given by another task
 */
export function notSigned(turn: Turn, paper: Visit["paper"], after: FormData): FormProblem[] {
  if (paper === undefined) return [];
  const value = after[paper.field];
  if (value && value !== turn.state.data[paper.field]) return [];
  const field = findField(turn.release.definition.fields, paper.field)?.field;
  return [{ code: "not-signed", path: paper.field, data: { field: field ? labelOf(field) : paper.field } }];
}

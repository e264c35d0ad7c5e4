import { findField, handsBack, takesIn, type FormData } from "../form";
import { DEEPEST_CALL, type CallToGo, type Ports, type StoredValue } from "../kinds";
import type { Step } from "../route";
import { begin } from "./begin";
import { NEW_REQUEST, type Call, type StuckReason } from "./state";
import { storedValue } from "./storedValue";
import { Turn } from "./turn";

/** A procedure with what it is handed, before its first step. */
interface Ready {
  call: Omit<Call, "state" | "over">;
  inner: Turn;
}

/**
 * Takes what a procedure is handed into its form; nothing is kept of it yet.
 * @returns why it cannot be begun
 * @throws Unclear where a value cannot be worked out
 */
export function readyCall(turn: Turn, token: string, step: Step, to: CallToGo): Ready | StuckReason {
  if (turn.depth >= DEEPEST_CALL) return { code: "too-deep", data: { step: step.name, limit: DEEPEST_CALL } };
  const found = turn.facts.procedures.find(to.procedure, to.version);
  const called = { step: step.name, procedure: found?.release.definition.name ?? to.procedure };
  if (!found) return { code: "no-procedure", data: called };
  const { definition } = found.release;
  const at = turn.at(token, step.id);
  const names = turn.names(at.scope);
  const data: Record<string, FormData[string]> = {};
  for (const { field, place, formula } of to.inputs) {
    const f = findField(definition.fields, field)?.field;
    if (!f || !takesIn(f)) return { code: "other-procedure", data: { ...called, name: f?.name ?? field } };
    data[field] =
      f.kind === "lines"
        ? turn.keptRows(at, place, formula, f, names)
        : turn.kept(at, place, formula, f, names);
  }
  const inner = new Turn(found.release, NEW_REQUEST, turn.facts, turn.actor, turn.moved);
  inner.depth = turn.depth + 1;
  // The call is not among those of the request yet.
  inner.outer = { turn, call: "" };
  const { requester, number, startedAt } = turn.state;
  const refused = begin(inner, { requester, number, data, began: startedAt });
  if (refused?.code === "form") {
    const name = (id: string) => findField(definition.fields, id)?.field.name ?? id;
    const fields = [...new Set(refused.data.problems.map((p) => name(p.path.split("/")[0]!)))].join(", ");
    return { code: "bad-inputs", data: { ...called, fields } };
  }
  const scope = at.scope === null ? {} : { scope: at.scope };
  const call = {
    id: turn.newId("c"),
    token,
    step: step.id,
    ...scope,
    procedure: to.procedure,
    release: found.id,
  };
  return { call, inner };
}

/**
 * What a procedure that has ended hands back, by field.
 * @returns why it cannot be told
 */
export function valuesBack(
  inner: Turn,
  step: Step,
  gives: Ports["gives"],
): ReadonlyMap<string, StoredValue> | StuckReason {
  const { definition } = inner.release;
  const out = new Map<string, StoredValue>();
  if (gives.length === 0) return out;
  const form = inner.evaluated();
  for (const { id: field, name } of gives) {
    const f = findField(definition.fields, field)?.field;
    if (!f || !handsBack(f))
      return { code: "nothing-back", data: { step: step.name, procedure: definition.name, name } };
    const why = form.failed.get(field);
    const kept = why === undefined ? storedValue(form.names.get(f.name) ?? null) : null;
    // The reason may tell of what is hidden from somebody in the procedure.
    if (!kept) return { code: "unclear", data: { step: step.name, formula: name, why: null } };
    out.set(field, kept.kept);
  }
  return out;
}

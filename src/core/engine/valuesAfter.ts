import { isContext, isList, readText, type Value } from "../expression";
import { findField } from "../form";
import type { RequestEvent } from "./events";
import type { EngineFacts } from "./facts";
import type { CompiledRelease } from "./release";
import { roundText } from "./roundText";
import type { RequestState } from "./state";
import { Turn } from "./turn";

/** What a value is after a step, in words: "Found" is "a list of 3: Rope; Sail; Anchor". */
export interface ValueAfter {
  step: string;
  /** The round, in words; empty outside of all. */
  round: string;
  name: string;
  value: string;
}

/** Things of a list that are named, and the longest text of a value. */
const [NAMED, LONGEST] = [3, 120];

/** The values an event gives names that formulas read, as they are after it. */
export function valuesAfter(
  release: CompiledRelease,
  e: RequestEvent,
  state: RequestState,
  facts: EngineFacts,
): ValueAfter[] {
  if (e.type !== "values set" && e.type !== "records kept") return [];
  const scope = e.scope ?? null;
  const turn = new Turn(release, state, facts, null);
  const names = turn.names(scope);
  const after = (name: string, money = false): ValueAfter => ({
    step: e.step,
    round: scope === null ? "" : roundText(state.scopes, scope),
    name,
    value: said(names.get(name) ?? null, money),
  });
  if (e.type === "records kept") return [after(release.places.get(e.step)?.step.name ?? e.step)];
  return Object.keys(e.data).flatMap((id) => {
    const field = findField(release.definition.fields, id)?.field;
    return field ? [after(field.name, release.kinds.fields[field.kind].has.money)] : [];
  });
}

function said(v: Value, money: boolean): string {
  const text = saidWhole(v, money);
  return text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text;
}

function saidWhole(v: Value, money: boolean): string {
  if (v === null) return "nothing";
  if (isList(v)) {
    const named = v.slice(0, NAMED).map((x) => saidWhole(x, money));
    return v.length === 0
      ? "an empty list"
      : `a list of ${v.length}: ${named.join("; ")}${v.length > NAMED ? "; …" : ""}`;
  }
  const text = isContext(v) ? readText(v) : readText(v, money);
  if (text !== "" || !isContext(v)) return text === "" ? "nothing" : text;
  return [...v].map(([k, x]) => `${k} ${saidWhole(x, false)}`).join(", ");
}

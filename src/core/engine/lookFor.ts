import { Entity, isContext, isList, type Names, type Value } from "../expression";
import { flatFields } from "../form";
import { stepKind } from "../kinds";
import type { Step } from "../route";
import type { WatchedRecord } from "./state";
import { stepTurn } from "./stepTurn";
import { Turn, type At } from "./turn";

/** Links of a record that are read with it, lists and rows counted. */
const DEEPEST = 8;

/**
 * Asks whether what a step waits for has come.
 * @returns with the records by which it was told; whatever else it reads is of the request itself
 * @throws Unclear where it cannot be told
 */
export function lookFor(turn: Turn, at: At, step: Step): { came: boolean; watches: WatchedRecord[] } {
  const seen = new Map<string, WatchedRecord>();
  // On a turn of its own, whose names tell what is asked of them.
  const aside = new Turn(turn.release, turn.state, turn.facts, turn.actor);
  const names = aside.names.bind(aside);
  aside.names = (scope) => watching(aside, names(scope), seen);
  const came = stepKind(turn.release.kinds, step).came?.(stepTurn(aside, at), step) ?? false;
  return { came, watches: [...seen.values()].sort((a, b) => (watchKey(a) < watchKey(b) ? -1 : 1)) };
}

export const watchKey = ({ register, id }: WatchedRecord): string => `${register}/${id}`;

/**
 * The same names, of which every record that stands behind one that is asked for is noted: what it is, what it links to,
 * and those of fields that it is worked out from.
 */
function watching(turn: Turn, names: Names, seen: Map<string, WatchedRecord>): Names {
  const note = (v: Value, depth = 0): void => {
    if (depth > DEEPEST) return;
    if (isList(v)) return v.forEach((x) => note(x, depth + 1));
    if (!isContext(v)) return;
    if (v instanceof Entity && v.of !== "person" && v.of !== "file") {
      // One that is gone may come back, and is watched too.
      const record = { register: v.of, id: v.id };
      seen.set(watchKey(record), record);
    }
    for (const x of v.values()) note(x, depth + 1);
  };
  const fields = flatFields(turn.release.definition.fields);
  const { reads } = turn.release.form;
  return {
    get(name) {
      const value = names.get(name);
      note(value ?? null);
      const field = fields.find((f) => f.name === name);
      const behind = field?.worked ? reads.of(field.id, "worked").all : null;
      if (behind)
        for (const f of fields)
          if (behind.has(f.id) || f.fields?.some((c) => behind.has(c.id)))
            note(turn.evaluated().names.get(f.name) ?? null);
      return value;
    },
  };
}

import { isContext, isList, type Names, type Value } from "../expression";
import { findField } from "../form";
import type { StepTurn } from "../kinds";
import { peopleOf } from "./assign";
import type { Turn } from "./turn";

/** The narrow face of the turn that a kind of step gets: names, values, and events of its own. */
export function stepTurn(turn: Turn, step: string): StepTurn {
  return {
    names: () => turn.names(),
    rows: (lines) => rowsOf(turn, lines),
    value: (place, text, names) => turn.value(step, place, text, names),
    valueForField: (place, text, id) => {
      const f = findField(turn.release.definition.fields, id)?.field;
      return turn.kept(step, place, text, f, turn.names());
    },
    valueForColumn: (place, text, { register, id }, names) => {
      const c = turn.release.registers[register]?.columns.find((x) => x.id === id);
      return turn.kept(step, place, text, c, names);
    },
    holds: (place, text) => turn.holds(step, place, text),
    text: (place, template) => turn.text(step, place, template),
    people: (place, rule) => peopleOf(turn, step, place, rule),
    set: (data) => turn.raise({ type: "values set", step, data: { ...data, ...turn.copiesFor(step, data) } }),
    keep: (records) => turn.raise({ type: "records kept", step, records }, null),
    did: (did) => turn.raise({ type: "step did", step, did }, null),
    send: (work) => turn.send(step, work),
  };
}

/** The rows of line items as names: a row's columns before the names of the route. */
function rowsOf(turn: Turn, lines: string): Names[] {
  const names = turn.names();
  const field = findField(turn.release.definition.fields, lines)?.field;
  const rows = field ? names.get(field.name) : null;
  return (isList(rows ?? null) ? (rows as Value[]) : []).map((row) => ({
    get: (n) => (isContext(row) && row.has(n) ? row.get(n) : names.get(n)),
  }));
}

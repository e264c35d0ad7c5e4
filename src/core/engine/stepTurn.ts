import { addLength } from "../calendar";
import {
  epochOf,
  isContext,
  isDate,
  isDateTime,
  isList,
  templateParts,
  type Names,
  type Value,
} from "../expression";
import { findField, joinedByLine } from "../form";
import type { StepTurn } from "../kinds";
import { hearersOf, peopleOf, receiversOf } from "./assign";
import { composeDocument } from "./composeDocument";
import { composeLetter } from "./composeLetter";
import { namesInThing } from "./namesInThing";
import type { At, Turn } from "./turn";

/** The narrow face of the turn that a kind of step gets: names, values, and events of its own. */
export function stepTurn(turn: Turn, at: At): StepTurn {
  const { step, scope } = at;
  const set: StepTurn["set"] = (data) =>
    turn.raise(
      { type: "values set", step, data: { ...data, ...turn.copiesFor(at, data) } },
      turn.actor,
      scope,
    );
  return {
    names: () => turn.names(scope),
    rows: (lines) => rowsOf(turn, scope, lines),
    items: (lines) => {
      const rows = turn.state.data[lines];
      const values = valuesOf(turn, lines);
      return (Array.isArray(rows) ? rows : []).flatMap((r, i) =>
        i < values.length ? [{ item: { lines, row: r["#"] }, value: values[i]! }] : [],
      );
    },
    stored: (place, text, value) => turn.stored(at, place, text, value),
    value: (place, text, names) => turn.value(at, place, text, names),
    valueForField: (place, text, id, names = turn.names(scope)) => {
      const f = findField(turn.release.definition.fields, id)?.field;
      return turn.kept(at, place, text, f, names);
    },
    signed: (field) => {
      const signed = turn.state.signed?.[field];
      const of = signed?.document;
      // Another step, or another round, may have had its own signed by the same field since.
      if (!signed || of?.step !== step || of.scope !== scope) return null;
      const { value: picture, by, at } = signed;
      return { document: of.file, picture, by, at, ...(of.for === undefined ? {} : { for: of.for }) };
    },
    lines: (id) => {
      const rows = turn.state.data[id];
      const names = rowsOf(turn, scope, id);
      // Line items that are not shown just now have no values; none of their rows is lost by that.
      return (Array.isArray(rows) ? rows : []).map((row, i) => ({
        row,
        names: names[i] ?? turn.names(scope),
      }));
    },
    newRows: (id, count) => newRows(turn, id, count),
    fieldName: (id) => findField(turn.release.definition.fields, id)?.field.name ?? id,
    valueForColumn: (place, text, { register, id }, names) => {
      const c = turn.release.registers[register]?.columns.find((x) => x.id === id);
      return turn.kept(at, place, text, c, names);
    },
    holds: (place, text) => turn.holds(at, place, text),
    each(place, text) {
      const v = turn.value(at, place, text);
      const things = isList(v) ? v : [v].filter((x) => x !== null);
      return things.map((thing, i) => namesInThing(thing, i + 1, turn.names(scope)));
    },
    text: (place, template) => turn.text(at, place, template),
    exactly(place, template, names) {
      // Asked first: as a text it would leave out what cannot be worked out.
      for (const part of templateParts(template))
        if ("formula" in part) turn.value(at, place, part.formula, names);
      return turn.text(at, place, template, names);
    },
    now: () => turn.facts.at,
    after: (length) =>
      addLength(turn.facts.calendar(turn.release.definition.calendar), turn.facts.at, length),
    momentOf: (value) => momentOf(turn, value),
    people: (place, rule) => peopleOf(turn, at, place, rule),
    receivers: (place, rule) => receiversOf(turn, at, place, rule),
    hearers: (place, rule) => hearersOf(turn, at, place, rule),
    letter: (id) => composeLetter(turn, at, id),
    document: (id) => composeDocument(turn, at, id),
    tellsHidden: (place, text, isFormula) =>
      (isFormula ? [text] : templateParts(text).flatMap((p) => ("formula" in p ? [p.formula] : []))).some(
        (f) => {
          const compiled = turn.formula(step, place, f);
          return compiled !== null && turn.hides(compiled);
        },
      ),
    set,
    keepFiles(id, ids) {
      const field = findField(turn.release.definition.fields, id)?.field;
      if (!field) return;
      const several = turn.release.kinds.fields[field.kind].many !== null;
      const old = several ? turn.state.data[id] : null;
      const there = typeof old === "string" && old ? [old] : [];
      set({ [id]: several ? joinedByLine([...there, ...ids]) : (ids[0] ?? null) });
    },
    keep: (records) => turn.raise({ type: "records kept", step, records }, null, scope),
    did: (did) => turn.raise({ type: "step did", step, did }, null, scope),
    send: (work) => turn.send(at, work),
  };
}

/** By the number of the event that will bring them, so that no two are alike. */
function newRows(turn: Turn, lines: string, count: number): string[] {
  const rows = turn.state.data[lines];
  const taken = new Set((Array.isArray(rows) ? rows : []).map((r) => r["#"]));
  const ids: string[] = [];
  for (let n = 1; ids.length < count; n++) {
    const id = `w${turn.state.seq + 1}-${n}`;
    if (!taken.has(id)) ids.push(id);
  }
  return ids;
}

function momentOf(turn: Turn, v: Value): number | null {
  const { zone } = turn.facts.calendar(turn.release.definition.calendar);
  if (isDate(v)) return v.toZonedDateTime(zone).epochMilliseconds;
  return isDateTime(v) ? epochOf(v, zone) : null;
}

function valuesOf(turn: Turn, lines: string): readonly Value[] {
  const field = findField(turn.release.definition.fields, lines)?.field;
  // By the form and not by the names of the route: a round may call something like the field.
  const rows = field ? turn.evaluated().names.get(field.name) : null;
  return isList(rows ?? null) ? (rows as readonly Value[]) : [];
}

/** The rows of line items as names: a row's columns before the names of the route. */
function rowsOf(turn: Turn, scope: string | null, lines: string): Names[] {
  const names = turn.names(scope);
  return valuesOf(turn, lines).map((row) => ({
    get: (n) => (isContext(row) && row.has(n) ? row.get(n) : names.get(n)),
  }));
}

import {
  ANY,
  compareValues,
  context,
  isList,
  listOf,
  nameMistake,
  YESNO,
  type Names,
  type Type,
  type Value,
} from "@/core/expression";
import { flatFields, isKeptValue, MOST_ROWS, type Field, type StoredRow } from "@/core/form";
import type { FormulaWalk, Next, StepBehaviour, StepProblems, StepTurn } from "@/core/kinds";
import type { RowsDeed, WorkOut } from "./shape";

type Turn = StepTurn<"work out">;
type Stuck = Extract<Next<"work out">, { go: "stuck" }>;

/** What formulas call each thing of a list that rows are made of. */
export const EACH = "Item";

/** Where a deed's formula stands. */
const placeOf = (r: RowsDeed, what: string): string => `rows ${r.id} ${what}`;

/** Sets values of the form, changes line items, keeps values of its own. */
export const workOut: StepBehaviour<"work out"> = {
  verb: "Work out",
  says: "values of the form, of line items, or of its own",
  blank: (id) => ({ id, name: "Work out", kind: "work out", set: [] }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    set: s.set.map((v) => ({
      ...v,
      value: walk.formula(
        { place: `set ${v.field}`, says: "what the field is set to", wants: { field: v.field } },
        v.value,
      ),
    })),
    ...(s.rows ? { rows: s.rows.map((r) => rowsFormulas(r, walk)) } : {}),
    ...(s.own
      ? {
          own: s.own.map((o) => ({
            ...o,
            value: walk.formula({ place: `own ${o.name}`, says: `what “${o.name}” is`, wants: ANY }, o.value),
          })),
        }
      : {}),
  }),
  steps: (s) => s,
  sets: (s) => [...s.set.map((v) => v.field), ...(s.rows ?? []).map((r) => r.lines)],
  isReadByName: (s) => (s.own?.length ?? 0) > 0,
  gives: (s, types) => {
    const own: Record<string, Type> = {};
    for (const o of s.own ?? []) own[o.name] = types.here(o.value);
    return context(own);
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    if (s.set.length > 0 || !(s.rows ?? s.own))
      turn.set(
        Object.fromEntries(
          s.set.map((v) => [v.field, turn.valueForField(`set ${v.field}`, v.value, v.field)]),
        ),
      );
    for (const r of s.rows ?? []) {
      const rows = turn.lines(r.lines);
      const after = changed(turn, s, r, rows);
      if ("go" in after) return after;
      turn.set({ [r.lines]: after });
    }
    if (s.own?.length)
      turn.keep({
        value: {
          entries: s.own.map(({ name, value }) => {
            const place = `own ${name}`;
            return [name, turn.stored(place, value, turn.value(place, value))] as const;
          }),
        },
      });
    return { go: "on" };
  },
  reasons: {
    "too-many-rows": (d) => `"${d.step}" would leave “${d.lines}” with more than ${d.limit} rows.`,
    "no-order": (d) =>
      `"${d.step}" cannot sort “${d.lines}”: what “${d.formula}” comes to in its rows has no order between them.`,
  },
};

function rowsFormulas(r: RowsDeed, walk: FormulaWalk): RowsDeed {
  const reads = { rowsOf: r.lines };
  switch (r.do) {
    case "set":
      return {
        ...r,
        value: walk.formula(
          {
            place: placeOf(r, "value"),
            says: "what the column is set to",
            wants: { field: r.column },
            reads,
          },
          r.value,
        ),
        ...(r.where === undefined
          ? {}
          : {
              where: walk.formula(
                { place: placeOf(r, "where"), says: "in which rows it is set", wants: YESNO, reads },
                r.where,
              ),
            }),
      };
    case "add": {
      const inRow = r.from === undefined ? "route" : ({ eachOf: r.from, as: r.as ?? EACH } as const);
      return {
        ...r,
        // Before the list: what reads an element of it is walked with the list as it was.
        values: r.values.map((v) => ({
          ...v,
          value: walk.formula(
            {
              place: placeOf(r, `value ${v.column}`),
              says: "what the column of a new row is",
              wants: { field: v.column },
              reads: inRow,
            },
            v.value,
          ),
        })),
        ...(r.from === undefined
          ? {}
          : {
              from: walk.formula(
                { place: placeOf(r, "from"), says: "what a row is added for", wants: listOf(ANY) },
                r.from,
              ),
            }),
      };
    }
    case "remove":
      return {
        ...r,
        where: walk.formula(
          { place: placeOf(r, "where"), says: "which rows are removed", wants: YESNO, reads },
          r.where,
        ),
      };
    case "sort":
      return {
        ...r,
        by: walk.formula(
          { place: placeOf(r, "by"), says: "what rows are sorted by", wants: ANY, reads },
          r.by,
        ),
      };
  }
}

interface Row {
  row: StoredRow;
  names: Names;
}
/** The rows as a deed leaves them. */
function changed(turn: Turn, s: WorkOut, r: RowsDeed, rows: readonly Row[]): StoredRow[] | Stuck {
  switch (r.do) {
    case "set":
      return rows.map(({ row, names }) => {
        const meant = r.where === undefined || turn.value(placeOf(r, "where"), r.where, names) === true;
        if (!meant) return row;
        return { ...row, [r.column]: turn.valueForField(placeOf(r, "value"), r.value, r.column, names) };
      });
    case "remove":
      return rows
        .filter(({ names }) => turn.value(placeOf(r, "where"), r.where, names) !== true)
        .map(({ row }) => row);
    case "add":
      return added(turn, s, r, rows);
    case "sort":
      return sorted(turn, s, r, rows);
  }
}

function added(
  turn: Turn,
  s: WorkOut,
  r: Extract<RowsDeed, { do: "add" }>,
  rows: readonly Row[],
): StoredRow[] | Stuck {
  const outer = turn.names();
  const each = (v: Value): Names => {
    const as = r.as ?? EACH;
    return { get: (n) => (n === as ? v : outer.get(n)) };
  };
  const list = r.from === undefined ? null : turn.value(placeOf(r, "from"), r.from);
  const names = r.from === undefined ? [outer] : thingsOf(list).map(each);
  if (rows.length + names.length > MOST_ROWS)
    return {
      go: "stuck",
      reason: {
        code: "too-many-rows",
        data: { step: s.name, lines: nameOf(turn, r.lines), limit: MOST_ROWS },
      },
    };
  const ids = turn.newRows(r.lines, names.length);
  const fresh = names.map((n, i) => ({
    "#": ids[i]!,
    ...Object.fromEntries(
      r.values.map((v) => [
        v.column,
        turn.valueForField(placeOf(r, `value ${v.column}`), v.value, v.column, n),
      ]),
    ),
  }));
  return [...rows.map((x) => x.row), ...fresh];
}

/** Of nothing there is nothing; what is one thing is a list of it, as in all of FEEL. */
function thingsOf(list: Value): readonly Value[] {
  if (list === null) return [];
  return isList(list) ? list : [list];
}

function sorted(
  turn: Turn,
  s: WorkOut,
  r: Extract<RowsDeed, { do: "sort" }>,
  rows: readonly Row[],
): StoredRow[] | Stuck {
  const keyed = rows.map(({ row, names }) => ({ row, key: turn.value(placeOf(r, "by"), r.by, names) }));
  const some = keyed.filter((x) => x.key !== null);
  // Of one kind all of them have an order; it is found out before, because sorting does not compare all.
  const first = some[0]?.key ?? null;
  if (some.some((x) => compareValues(first, x.key) === null && some.length > 1))
    return {
      go: "stuck",
      reason: { code: "no-order", data: { step: s.name, lines: nameOf(turn, r.lines), formula: r.by } },
    };
  const way = r.descending ? -1 : 1;
  return [
    ...some.sort((a, b) => way * (compareValues(a.key, b.key) ?? 0)),
    ...keyed.filter((x) => x.key === null),
  ].map((x) => x.row);
}

const nameOf = (turn: Turn, field: string): string => turn.fieldName(field);

function problems(s: WorkOut, { definition, say }: StepProblems) {
  const all = flatFields(definition.fields);
  const fields = new Map(all.map((f) => [f.id, f]));
  for (const v of s.set) {
    const f = fields.get(v.field);
    if (!f) say("error", "no-field", `There is no field "${v.field}".`, "set");
    else if (f.worked) say("error", "sets-worked", worked(f), "set");
  }
  if (new Set(s.set.map((v) => v.field)).size < s.set.length)
    say("error", "sets-twice", "One field is set twice here.", "set");
  for (const r of s.rows ?? []) rowsProblems(r, fields.get(r.lines), say);
  ownProblems(s, say);
  if (s.set.length === 0 && !s.rows?.length && !s.own?.length)
    say("warning", "sets-nothing", "This step sets nothing yet.");
}

const worked = (f: Field): string => `"${f.name}" is worked out by the form; what is set here would be lost.`;

function rowsProblems(r: RowsDeed, lines: Field | undefined, say: StepProblems["say"]) {
  if (lines?.kind !== "lines")
    return say(
      "error",
      "no-lines",
      "The line items it changes are not in the form any more.",
      placeOf(r, "lines"),
    );
  const column = (id: string, at: string) => {
    const c = lines.fields?.find((x) => x.id === id);
    if (!c) say("error", "no-column", `${lines.name} has no column "${id}".`, at);
    else if (c.worked && !isKeptValue(c)) say("error", "sets-worked", worked(c), at);
  };
  const empty = (text: string, message: string, at: string) =>
    text.trim() === "" && say("error", "no-formula", message, at);
  switch (r.do) {
    case "set":
      column(r.column, placeOf(r, "value"));
      return empty(r.value, `Say what the column of ${lines.name} is set to.`, placeOf(r, "value"));
    case "add": {
      for (const v of r.values) column(v.column, placeOf(r, `value ${v.column}`));
      const mistake = r.from === undefined ? null : nameMistake(r.as ?? EACH);
      if (mistake !== null)
        say("error", "bad-name", `What each thing of the list is called. ${mistake}`, placeOf(r, "from"));
      if (r.values.length === 0)
        say(
          "error",
          "no-values",
          `A new row of ${lines.name} would be empty: give a column its value.`,
          placeOf(r, "from"),
        );
      return;
    }
    case "remove":
      return empty(
        r.where,
        `Say which rows of ${lines.name} are removed; for all of them write true.`,
        placeOf(r, "where"),
      );
    case "sort":
      return empty(r.by, `Say what ${lines.name} are sorted by, for example a column.`, placeOf(r, "by"));
  }
}

function ownProblems(s: WorkOut, say: StepProblems["say"]) {
  const own = s.own ?? [];
  if (own.length === 0) return;
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say("error", "bad-name", `Its values are read by the name of the step. ${mistake}`, "name");
  for (const o of own) {
    const bad = nameMistake(o.name);
    if (bad !== null) say("error", "bad-name", bad, `own ${o.name}`);
    if (o.value.trim() === "") say("error", "no-formula", `Say what “${o.name}” is.`, `own ${o.name}`);
  }
  if (new Set(own.map((o) => o.name)).size < own.length)
    say("error", "own-twice", "Two values of its own have the same name.", "own");
}

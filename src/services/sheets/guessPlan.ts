import type { Column, RecordRights, RegisterShape } from "@/core/form";
import { guessDates, guessDecimal, guessMatches, type SheetPlan, type SheetRow } from "@/core/sheets";
import { KINDS } from "@/kinds";

/** Of what a sheet starts so many requests begin in a minute, unless somebody wants it otherwise. */
const A_MINUTE = 200;

/** The columns a sheet of somebody's may fill in. */
export const fillable = (shape: RegisterShape, may: RecordRights): Column[] =>
  shape.columns.filter((c) => may.fill.includes(c.id) && !c.worked && KINDS.fields[c.kind].cell !== null);

/** The cells of those columns of a sheet that go to columns of some kinds. */
function* cellsFor(rows: readonly SheetRow[], matches: SheetPlan["matches"], columns: readonly Column[]) {
  for (const [i, id] of matches.entries())
    if (columns.some((c) => c.id === id)) for (const r of rows) if (r.cells[i]) yield r.cells[i];
}

/** How a sheet would be brought in where nobody has said anything yet. @param given what goes where, where that is known */
export function guessPlan(
  shape: RegisterShape,
  may: RecordRights,
  headings: readonly string[],
  rows: readonly SheetRow[],
  given?: SheetPlan["matches"],
): SheetPlan {
  const columns = fillable(shape, may);
  const matches = given ?? guessMatches(headings, columns);
  const key = columns.find((c) => (c.unique || c.id === shape.key_column) && matches.includes(c.id));
  const ranged = (range: "date" | "number") =>
    cellsFor(
      rows,
      matches,
      columns.filter((c) => KINDS.fields[c.kind].has.range === range),
    );
  return {
    matches,
    key: key?.id ?? null,
    reading: { dates: guessDates(ranged("date")), decimal: guessDecimal(ranged("number")) },
    there: may.change ? "change" : "leave",
    absent: may.add ? "add" : "leave",
    empty: "leave",
    aMinute: A_MINUTE,
    quietly: false,
  };
}

/** Why a plan does not fit the register as its owner may fill it in; null where it does. */
export function planMistake(
  plan: SheetPlan,
  headings: readonly string[],
  shape: RegisterShape,
  may: RecordRights,
): string | null {
  const columns = fillable(shape, may);
  if (plan.matches.length !== headings.length) return "The sheet has other columns than these.";
  const given = plan.matches.filter((m) => m !== null);
  const twice = given.find((m, i) => given.indexOf(m) !== i);
  const named = (id: string) => shape.columns.find((c) => c.id === id)?.name ?? id;
  if (twice) return `Two columns of the sheet go to ${named(twice)}. Each column is filled by one.`;
  const stranger = given.find((m) => !columns.some((c) => c.id === m));
  if (stranger) return `${named(stranger)} is no column you may fill in.`;
  if (plan.key !== null && !given.includes(plan.key))
    return `Records are to be found again by ${named(plan.key)}, and no column of the sheet goes to it.`;
  if (plan.absent === "add" && !may.add)
    return `You may not add ${shape.name}. Leave out what is not there yet.`;
  if (plan.key !== null && plan.there === "change" && !may.change)
    return `You may not change ${shape.name}. Leave as they are those that are there.`;
  return null;
}

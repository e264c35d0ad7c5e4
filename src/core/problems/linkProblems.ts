import type { CheckedFormula } from "../expression";
import { fieldsRead, findField, type Registers } from "../form";
import { stepKind } from "../kinds";
import type { FormulaPlace, ProcessDefinition, StepPlace, Surrounding } from "../route";
import { place, type CheckCache, type Problem } from "./problem";

/**
 * Amounts that move after the start: a link reads its record live, so that a price that changes while people decide
 * changes what they decide about. A copied field stays.
 */
export function linkProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { registers, kinds }: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  // Where nobody is asked, all is over at the start.
  if (![...places.values()].some(({ step }) => stepKind(kinds, step).asks)) return;
  for (const f of formulas) {
    if (f.ofRecord || (f.owner.kind !== "step" && f.place !== "worked")) continue;
    const checked = cache.check(f.formula, f.scope, f.signature, f.type);
    const amount = linkedAmount(checked, registers);
    if (!amount || checked.problems.length > 0) continue;
    const say = (code: string, message: string, mend?: Problem["mend"]) =>
      out.push({
        severity: "warning",
        code,
        where: place(f.owner.kind, f.owner.id, f.place),
        message,
        ...(mend ? { mend } : {}),
      });
    if (f.owner.kind === "step") {
      say(
        "live-amount",
        `"${amount}" is read here as it stands in the register at that moment, not as it was when the form was filled in. Copy it into a field, and read that.`,
      );
      continue;
    }
    const { field, parents } = findField(d.fields, f.owner.id)!;
    const table = parents.find((p) => p.kind === "lines");
    const besides = fieldsRead(checked.reads, d.fields, table).filter((id) => {
      const read = findField(d.fields, id)?.field;
      return read && kinds.fields[read.kind].links === null && read.kind !== "lines";
    });
    const names = besides.map((id) => `"${findField(d.fields, id)!.field.name}"`).join(", ");
    if (field.copied && besides.length > 0)
      say(
        "copied-anew",
        `"${field.name}" is copied anew, with what "${amount}" is then, each time ${names} changes. Copy the amount alone into a field of its own, and work out the rest from it.`,
      );
    else if (!field.copied && !field.fixed)
      say(
        "live-amount",
        `"${field.name}" moves when "${amount}" is changed in the register, also after somebody has agreed to it. ${
          besides.length > 0
            ? "Copy the amount into a field of its own, and work out the rest from it."
            : "Keep it as it was when the form was filled in."
        }`,
        besides.length > 0
          ? undefined
          : { label: "Copy it", edit: { op: "field.set", id: field.id, patch: { copied: true } } },
      );
  }
}

/** The first column that holds money and is read from a record. */
function linkedAmount({ reads }: CheckedFormula, registers: Registers): string | null {
  for (const { name, target } of reads.references) {
    const money = (key: string) =>
      registers[key]?.columns.some((c) => c.name === name && c.kind === "money") === true;
    if (target.t === "unknown" && target.among?.some(money)) return name;
    if (target.t !== "entry" || !target.of.startsWith("record ")) continue;
    if (money(target.of.slice("record ".length))) return name;
  }
  return null;
}

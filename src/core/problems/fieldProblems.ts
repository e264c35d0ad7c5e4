import { compareValues, dateFrom, toNum } from "../expression";
import {
  isGroup,
  MAX_LINES,
  mayBeAmong,
  walkFields,
  type AccessOf,
  type Field,
  type FieldProperties,
} from "../form";
import { stepKind, type Kinds, type Say } from "../kinds";
import { accessAt, placesOf, START, type ProcessDefinition, type Surrounding } from "../route";
import { place, type Problem } from "./problem";

/** The least and the most must be what the field holds, in this order. */
export function rangeProblems(f: Field, range: FieldProperties["range"], say: Say) {
  // A size is looked at by the kind itself.
  if (range === null || range === "megabytes") return;
  const rows = (text: string) => (/^\d{1,4}$/.test(text) && Number(text) <= MAX_LINES ? toNum(text) : null);
  const read = { date: dateFrom, number: toNum, rows }[range];
  const what = {
    date: "a date, for example 2026-11-30",
    number: "a number, for example 1000 or 12.50",
    rows: `a number of rows, at most ${MAX_LINES}, for example 20`,
  }[range];
  for (const end of ["min", "max"] as const)
    if (f[end] && read(f[end]) === null)
      say(
        "error",
        "bad-range",
        `The ${end === "min" ? "least" : "most"} of "${f.name}" is ${what}; "${f[end]}" is none.`,
        end,
      );
  const [least, most] = [f.min ? read(f.min) : null, f.max ? read(f.max) : null];
  if (least && most && compareValues(least, most) === 1)
    say("error", "no-range", `The least, ${f.min}, is more than the most, ${f.max}.`, "min");
}

/** What a field is chosen from must be there, be text, and be all that is chosen from. */
export function amongProblems(f: Field, { registers, kinds }: Surrounding, say: Say) {
  if (!f.among) return;
  const { register, column } = f.among;
  const { options } = kinds.fields[f.kind].has;
  if (options !== "values" && options !== "several values")
    say(
      "error",
      "not-among",
      `Nothing is chosen in "${f.name}", so not from a register, either.`,
      "register",
    );
  const shape = Object.hasOwn(registers, register) ? registers[register] : undefined;
  if (!shape) return say("error", "no-register", `There is no register "${register}".`, "register");
  const at = shape.columns.find((c) => c.id === column);
  if (!at)
    say(
      "error",
      "no-column",
      `"${f.name}" is chosen from a column of ${shape.name} that is not there. Choose another.`,
      "register",
    );
  else if (!mayBeAmong(at, kinds.fields))
    say(
      "error",
      "no-texts",
      `"${f.name}" is chosen from "${at.name}" of ${shape.name}, which holds no text. Choose a column of text, or look up the record itself.`,
      "register",
    );
  if (f.options?.length)
    say(
      "error",
      "both-choices",
      `"${f.name}" is chosen from ${shape.name}; it cannot have choices of its own as well.`,
      "options",
    );
  if (f.worked)
    say(
      "error",
      "worked-among",
      `"${f.name}" is worked out, and nobody chooses it from ${shape.name}. Make it a text.`,
      "worked",
    );
}

/** Tables hold columns, pages stand at the top, sections in pages or at the top. */
export function nestingProblems(f: Field, parents: readonly Field[], kinds: Kinds, say: Say) {
  const table = parents.find((p) => p.kind === "lines");
  if (table && (f.kind === "lines" || isGroup(f)))
    say(
      "error",
      "bad-place",
      `"${f.name}" is ${f.kind === "lines" ? "line items" : `a ${f.kind}`} inside the line items "${table.name}"; those hold columns only.`,
    );
  if (table && kinds.fields[f.kind].signs)
    say(
      "error",
      "bad-place",
      `The signature "${f.name}" stands inside the line items "${table.name}"; what is signed is the form, so that it stands beside them.`,
    );
  if (f.kind === "page" && parents.length > 0)
    say(
      "error",
      "bad-place",
      `The page "${f.name}" stands inside "${parents.at(-1)!.name}"; pages stand at the top.`,
    );
}

/** A field that must be filled in, at no step by anybody. */
export function neededByNobody(d: ProcessDefinition, kinds: Kinds, out: Problem[]) {
  const steps = [...placesOf(d, kinds).values()].map((p) => p.step);
  const atStart = accessAt(d, START);
  // Mostly a start lets everything be filled in; only then are all steps gone through.
  let later: AccessOf[] | null = null;
  const atSomeStep = (id: string) =>
    (later ??= steps.map((s) => accessAt(d, s.id))).some((at) => at(id) === "edit");
  const set = new Set(steps.flatMap((s) => stepKind(kinds, s).sets(s)));
  walkFields(d.fields, (f) => {
    if (!f.needed || f.needed === "false" || f.worked || isGroup(f) || set.has(f.id)) return;
    if (atStart(f.id) === "edit" || atSomeStep(f.id)) return;
    out.push({
      severity: "error",
      code: "needed-by-nobody",
      where: place("field", f.id, "needed"),
      message: `"${f.name}" is needed, but nobody can fill it in: it can be edited neither at the start nor at any step.`,
    });
  });
}

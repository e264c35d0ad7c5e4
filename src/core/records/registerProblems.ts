import {
  asksClock,
  checkFormula,
  nameMistake,
  YESNO,
  type CheckedFormula,
  type Target,
  type Type,
} from "../expression";
import {
  circles,
  fieldType,
  recordScope,
  type Column,
  type FormSurrounding,
  type RegisterRule,
  type RegisterShape,
} from "../form";
import { BEFORE, fieldOfColumn, ruleScope } from "./recordForm";

/** Something wrong with how a register is set up, on the row of its column sheet it belongs to. */
export interface RegisterProblem {
  where: { kind: "register" | "column" | "rule"; id: string; place?: string };
  code: string;
  message: string;
  /** For a mistake inside a formula. */
  formula?: { text: string; from: number; to: number };
}

/** Names formulas read of a record that are no column's. */
const TAKEN: Readonly<Record<string, string>> = {
  [BEFORE]: "the record as it was",
  id: "what a record is known by",
};

/** All that is wrong with a register: a register with any of it is not kept. */
export function registerProblems(shape: RegisterShape, around: FormSurrounding): RegisterProblem[] {
  const out: RegisterProblem[] = [];
  const say = (where: RegisterProblem["where"], code: string, message: string) =>
    out.push({ where, code, message });
  const own = { ...around, registers: { ...around.registers, [shape.key]: shape } };
  if (!shape.name.trim())
    say(
      { kind: "register", id: shape.key, place: "name" },
      "bad-name",
      "Say what it is called, for example: Objects.",
    );
  if (!shape.one.trim())
    say(
      { kind: "register", id: shape.key, place: "one" },
      "bad-name",
      "Say what one record is called, for example: object.",
    );
  titleProblems(shape, say);
  const names = new Map<string, string>();
  for (const c of shape.columns) {
    const at = (place: string) => ({ kind: "column" as const, id: c.id, place });
    const mistake = nameMistake(c.name);
    if (mistake) say(at("name"), "bad-name", mistake);
    const taken = TAKEN[c.name];
    if (taken)
      say(at("name"), "name-taken", `In formulas "${c.name}" is ${taken}. Call the column something else.`);
    const twice = names.get(c.name.toLowerCase());
    if (twice !== undefined)
      say(
        at("name"),
        "name-twice",
        `Two columns are called "${c.name}"; a formula could not tell them apart.`,
      );
    names.set(c.name.toLowerCase(), c.id);
    around.kinds.fields[c.kind].problems(fieldOfColumn(c), {
      registers: own.registers,
      say: (_, code, message, place) => say(at(place ?? "kind"), code, message),
    });
    if (c.worked && c.starting)
      say(at("starting"), "never-begins", `"${c.name}" is worked out, and so begins with nothing else.`);
  }
  workedProblems(shape, own, out);
  for (const r of shape.rules ?? []) ruleProblems(shape, r, own, out);
  return out;
}

type Say = (where: RegisterProblem["where"], code: string, message: string) => void;

function titleProblems(shape: RegisterShape, say: Say) {
  const at = { kind: "register" as const, id: shape.key, place: "title" };
  if (shape.title.length === 0) say(at, "no-title", `Say which column names a ${shape.one}.`);
  const has = (id: string) => shape.columns.some((c) => c.id === id);
  if (!shape.title.every(has)) say(at, "no-column", "A column that names its records is not there any more.");
  if (shape.key_column !== undefined && !has(shape.key_column))
    say(
      { ...at, place: "key_column" },
      "no-column",
      "The column its records are found by is not there any more.",
    );
}

/** What stands in a column by a formula: the record's own columns alone, so that it never grows old unseen. */
function workedProblems(shape: RegisterShape, around: FormSurrounding, out: RegisterProblem[]) {
  const scope = recordScope(shape, around);
  const ids = new Map(shape.columns.map((c) => [c.name, c.id]));
  const graph = new Map<string, string[]>();
  for (const c of shape.columns) {
    const where = { kind: "column" as const, id: c.id };
    if (c.starting) check(c.starting, scope, typeOf(c, around), { ...where, place: "starting" }, out);
    if (!c.worked) continue;
    const at = { ...where, place: "worked" };
    const checked = check(c.worked, scope, typeOf(c, around), at, out);
    const reads = checked.reads.references;
    graph.set(
      c.id,
      reads.flatMap((r) => (r.target.t === "name" ? [ids.get(r.name) ?? ""] : [])),
    );
    if (reads.some((r) => ofRecord(r.target)))
      out.push({
        where: at,
        code: "reads-link",
        message: `"${c.name}" is kept with the record, and would not change when the record it links to does. Read only columns of this register.`,
      });
    if (checked.ast && asksClock(checked.ast))
      out.push({
        where: at,
        code: "reads-clock",
        message: `"${c.name}" is kept with the record, and would not change as time goes by. Leave out today() and now().`,
      });
  }
  for (const circle of circles(graph)) {
    const named = [...circle, circle[0]!].map((id) => shape.columns.find((c) => c.id === id)?.name);
    out.push({
      where: { kind: "column", id: circle[0]!, place: "worked" },
      code: "circle",
      message: `These work each other out in a circle: ${named.join(" → ")}.`,
    });
  }
}

/** What is known only as it runs may be a record's as well. */
const ofRecord = (t: Target): boolean => t.t === "unknown" || (t.t === "entry" && t.of.startsWith("record "));

function ruleProblems(
  shape: RegisterShape,
  r: RegisterRule,
  around: FormSurrounding,
  out: RegisterProblem[],
) {
  const at = (place: string) => ({ kind: "rule" as const, id: r.id, place });
  const say = (place: string, code: string, message: string) => out.push({ where: at(place), code, message });
  const scope = ruleScope(shape, around);
  if (r.when.trim()) check(r.when, scope, YESNO, at("when"), out);
  else say("when", "no-condition", "Say when the rule holds, for example: Ends < Starts.");
  if (r.then.do === "refuse") {
    if (!r.then.say.trim())
      say("say", "no-sentence", `Say why, for example: A ${shape.one} may not end before it starts.`);
    return;
  }
  const { column, value } = r.then;
  const c = shape.columns.find((x) => x.id === column);
  if (!c)
    say(
      "column",
      "no-column",
      column ? "The column it sets is not there any more." : "Say which column it sets.",
    );
  if (c?.worked)
    say("column", "worked-out", `"${c.name}" is worked out by its own formula; nothing else sets it.`);
  if (r.on === "removed")
    say("on", "sets-removed", "Of a record that is removed nothing can be set; it can be refused.");
  if (!value.trim())
    say("value", "no-value", `Say what "${c?.name ?? "the column"}" is set to, for example: today().`);
  else check(value, scope, c && typeOf(c, around), at("value"), out);
}

const typeOf = (c: Column, around: FormSurrounding): Type => fieldType(c, around, 1);

function check(
  text: string,
  scope: Parameters<typeof checkFormula>[1],
  type: Type | undefined,
  where: RegisterProblem["where"],
  out: RegisterProblem[],
): CheckedFormula {
  const checked = checkFormula(text, scope, type);
  for (const p of checked.problems)
    out.push({ where, code: p.code, message: p.message, formula: { text, from: p.from, to: p.to } });
  return checked;
}

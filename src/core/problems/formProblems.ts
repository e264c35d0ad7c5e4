import { mapTemplate, nameMistake, type FormulaProblem, type Reads } from "../expression";
import {
  circles,
  fieldsRead,
  findField,
  isGroup,
  mayOffer,
  walkFields,
  type Field,
  type Registers,
} from "../form";
import type { Say } from "../kinds";
import type { FormulaPlace, ProcessDefinition, Surrounding } from "../route";
import { amongProblems, nestingProblems, neededByNobody, rangeProblems } from "./fieldProblems";
import { inFormula, place, type CheckCache, type Problem } from "./problem";

/** What is wrong with the form: names, kinds, formulas, circles. */
export function formProblems(
  d: ProcessDefinition,
  { registers, kinds }: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  const byField = new Map<string, FormulaPlace[]>();
  for (const p of formulas)
    if (p.owner.kind === "field") byField.set(p.owner.id, [...(byField.get(p.owner.id) ?? []), p]);
  const graph = new Map<string, string[]>();
  const seenNames = new Map<string, string>();
  walkFields(d.fields, (f, parents) => {
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("field", f.id, at), message, ...(mend ? { mend } : {}) });
    const lines = parents.find((p) => p.kind === "lines");
    const mistake = nameMistake(f.name);
    if (mistake) say("error", "bad-name", mistake, "name");
    const key = `${lines?.id ?? ""}|${f.name.toLowerCase()}`;
    if (seenNames.has(key))
      say(
        "error",
        "name-twice",
        `Two fields are called "${f.name}"; a formula could not tell them apart.`,
        "name",
      );
    seenNames.set(key, f.id);
    kinds.fields[f.kind].problems(f, { registers, say });
    rangeProblems(f, kinds.fields[f.kind].has.range, say);
    nestingProblems(f, parents, kinds, say);
    for (const [i, c] of (f.checks ?? []).entries()) {
      for (const id of c.about ?? [])
        aboutProblem(d, lines, id, (message) => say("error", "about-nowhere", message, `check ${i}`));
      if (c.records && !Object.hasOwn(registers, c.records.register))
        say("error", "no-register", noRegister(c.records.register), `check ${i}`);
    }
    if (f.offered !== undefined && !mayOffer(f, kinds.fields))
      say(
        "error",
        "offers-nothing",
        `Only a person, a record or what stands in a register is picked by a condition. "${f.name}" is none of them.`,
        "offered",
      );
    amongProblems(f, { registers, kinds }, say);
    for (const { place: at, formula, scope, declared, signature, type } of byField.get(f.id) ?? []) {
      const checked = cache.check(formula, scope, signature, type);
      for (const p of checked.problems)
        out.push(inFormula(place("field", f.id, at), formula, p, mendField(f, at, p)));
      if (f.among && at === "offered" && readsItself(f, checked.reads, d.fields, lines, registers))
        say("error", "reads-itself", `What can be chosen as "${f.name}" cannot hang on what was chosen.`, at);
      if (checked.ast && (at === "worked" || at === "shown"))
        graph.set(f.id, [
          ...(graph.get(f.id) ?? []),
          ...fieldsRead(checked.reads, d.fields, lines),
          ...tablesNamed(checked.reads, declared),
        ]);
    }
  });
  const called = new Map<string, string>();
  walkFields(d.fields, (f, parents) => {
    const lines = parents.find((p) => p.kind === "lines");
    called.set(f.id, lines ? `${lines.name}.${f.name}` : f.name);
  });
  neededByNobody(d, kinds, out);
  for (const circle of circles(graph))
    out.push({
      severity: "error",
      code: "circle",
      where: place("field", circle[0]!, "worked"),
      message: `These work each other out in a circle: ${[...circle, circle[0]!].map((id) => called.get(id)).join(" → ")}.`,
    });
}

/** Whether a condition over a column reads the field that is chosen from it; by its bare name it reads a column called so. */
function readsItself(
  f: Field,
  reads: Reads,
  fields: readonly Field[],
  lines: Field | undefined,
  registers: Registers,
): boolean {
  const columns = registers[f.among?.register ?? ""]?.columns ?? [];
  const ofForm = ({ name, target }: Reads["references"][number]) =>
    target.t !== "name" || !columns.some((c) => c.name === name);
  return fieldsRead({ ...reads, references: reads.references.filter(ofForm) }, fields, lines).includes(f.id);
}

const noRegister = (key: string): string =>
  key ? `There is no register "${key}".` : "Say in which register the check looks.";

/** A check is told at fields of the form, or at columns of its own row. */
function aboutProblem(
  d: ProcessDefinition,
  lines: Field | undefined,
  id: string,
  say: (message: string) => void,
) {
  const at = findField(d.fields, id);
  if (!at || isGroup(at.field))
    return say("A check is told at a field that is not in the form any more. Take it out there.");
  const table = at.parents.find((p) => p.kind === "lines");
  if (table && table.id !== lines?.id)
    say(
      `A check is told at "${at.field.name}", a column of "${table.name}": outside it nobody knows which line that would be.`,
    );
}

/** Where a column is read by the name of its table, whether the table is shown counts too. */
const tablesNamed = (reads: Reads, declared: FormulaPlace["declared"]): string[] =>
  reads.references.flatMap((r) => {
    const id = r.target.t === "name" ? declared(r.name) : null;
    return id?.startsWith("field ") ? [id.slice("field ".length)] : [];
  });

function mendField(f: Field, at: string, p: FormulaProblem): Problem["mend"] {
  if (!p.mend) return undefined;
  if (at.startsWith("check ")) {
    const i = Number(at.slice(6));
    return {
      label: p.mend.label,
      edit: {
        op: "field.set",
        id: f.id,
        patch: { checks: f.checks!.map((c, k) => (k === i ? { ...c, must: p.mend!.insert } : c)) },
      },
    };
  }
  const { label, insert } = p.mend;
  let nth = 0;
  const patch = at.startsWith("text ")
    ? { text: mapTemplate(f.text ?? "", (t) => (nth++ === Number(at.slice(5)) ? insert : t)) }
    : { [at]: insert };
  return { label, edit: { op: "field.set", id: f.id, patch } };
}

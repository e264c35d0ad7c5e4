import { nameMistake, nameUses, type FormulaProblem, type Node } from "../expression";
import { flatFields, walkFields, type Field, type FormSurrounding } from "../form";
import type { Say } from "../kinds";
import type { FormulaPlace, ProcessDefinition } from "../route";
import { inFormula, place, type CheckCache, type Problem } from "./problem";

/** What is wrong with the form: names, kinds, formulas, circles. */
export function formProblems(
  d: ProcessDefinition,
  { registers, kinds: { fields: kinds } }: FormSurrounding,
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
    kinds[f.kind].problems(f, { registers, say });
    if (f.min && f.max && Number(f.min) > Number(f.max))
      say("error", "no-range", `The least, ${f.min}, is more than the most, ${f.max}.`, "min");

    for (const { place: at, formula, scope, signature, type } of byField.get(f.id) ?? []) {
      const checked = cache.check(formula, scope, signature, type);
      for (const p of checked.problems)
        out.push(inFormula(place("field", f.id, at), formula, p, mendField(f, at, p)));
      if (checked.ast && (at === "worked" || at === "shown")) {
        const mine = lines ? `${lines.name}.${f.name}` : f.name;
        graph.set(mine, [...(graph.get(mine) ?? []), ...readsOf(checked.ast, lines)]);
      }
    }
  });
  for (const circle of circles(graph)) {
    const [table, column] = circle[0]!.includes(".") ? circle[0]!.split(".") : [null, circle[0]!];
    const at = flatFields(d.fields).find((f) => f.name === (table ?? column));
    const field = table ? at?.fields?.find((c) => c.name === column) : at;
    if (field)
      out.push({
        severity: "error",
        code: "circle",
        where: place("field", field.id, "worked"),
        message: `These work each other out in a circle: ${[...circle, circle[0]].join(" → ")}.`,
      });
  }
}

/** Names read, those of the same table written as "Lines.Price". */
function readsOf(ast: Node, lines: Field | undefined): string[] {
  const columns = new Set((lines?.fields ?? []).map((c) => c.name));
  return nameUses(ast).map((u) => {
    if (lines && columns.has(u.path[0]!)) return `${lines.name}.${u.path[0]}`;
    if (u.path.length > 1) return `${u.path[0]}.${u.path[1]}`;
    return u.path[0]!;
  });
}

function circles(graph: ReadonlyMap<string, string[]>): string[][] {
  const out: string[][] = [];
  const done = new Set<string>();
  const visit = (name: string, path: string[]) => {
    const at = path.indexOf(name);
    if (at >= 0) {
      out.push(path.slice(at));
      return;
    }
    if (done.has(name) || !graph.has(name)) return;
    for (const next of new Set(graph.get(name))) visit(next, [...path, name]);
    done.add(name);
  };
  for (const name of graph.keys()) visit(name, []);
  return out;
}

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
  return { label: p.mend.label, edit: { op: "field.set", id: f.id, patch: { [at]: p.mend.insert } } };
}

import { checkFormula, nameMistake, nameUses, type CheckedFormula, type FormulaProblem, type Node, type Scope, type Type } from "../expression";
import { fieldFormulas, flatFields, scopeOfField, walkFields, type Field, type FormulaPlace, type Registers } from "../form";
import { START, type ProcessDefinition, type Rule, type Step } from "./definition";
import type { Edit } from "./edit";
import { routeFormulas } from "./formulas";
import { branchesAround, following, listsOf, placesOf, type StepPlace } from "./route";
import { uncovered } from "./coverage";

/** Something wrong with a draft, on the row it belongs to. Errors stop a release. */
export interface Problem {
  severity: "error" | "warning";
  code: string;
  where: { kind: "field" | "step" | "process"; id: string; place?: string };
  message: string;
  /** For a mistake inside a formula. */
  formula?: { text: string; from: number; to: number };
  mend?: { label: string; edit: Edit };
}

/** What the office looks like, as far as assignee rules can be checked against it. */
export interface OfficeFacts {
  people: readonly { id: string; name: string; manager: string | null }[];
  groups: Readonly<Record<string, readonly string[]>>;
  duties: Readonly<Record<string, number>>;
  calendars: readonly string[];
}

/** The part of the office's data that assignee rules are checked against. */
export function officeFactsOf(o: {
  people: readonly { id: string; name: string; manager: string | null; active: boolean }[];
  groups: readonly { key: string; members: readonly string[] }[];
  duties: readonly { duty: string }[];
  calendars: readonly { key: string }[];
}): OfficeFacts {
  const duties: Record<string, number> = {};
  for (const h of o.duties) duties[h.duty] = (duties[h.duty] ?? 0) + 1;
  return {
    people: o.people.filter((p) => p.active),
    groups: Object.fromEntries(o.groups.map((g) => [g.key, g.members])),
    duties,
    calendars: o.calendars.map((c) => c.key),
  };
}

/**
 * Checked formulas kept between two checks of the same draft: after one edit, only the formulas that
 * changed, or whose names changed, are parsed again.
 */
export class CheckCache {
  private readonly scopes = new Map<string, { scope: Scope; results: Map<string, CheckedFormula> }>();
  check(text: string, scope: Scope, signature: string, type: Type): CheckedFormula {
    let entry = this.scopes.get(signature);
    if (!entry) {
      if (this.scopes.size > 60) this.scopes.clear();
      this.scopes.set(signature, (entry = { scope, results: new Map() }));
    }
    const key = `${JSON.stringify(type)}|${text}`;
    let result = entry.results.get(key);
    if (!result) entry.results.set(key, (result = checkFormula(text, entry.scope, type)));
    return result;
  }
}

/** Everything wrong with a draft, in reading order. */
export function problemsOf(
  definition: ProcessDefinition,
  registers: Registers,
  office?: OfficeFacts,
  cache = new CheckCache(),
): Problem[] {
  const places = placesOf(definition);
  const out: Problem[] = [];
  formProblems(definition, registers, cache, out);
  processProblems(definition, office, out);
  routeProblems(definition, places, registers, out);
  formulaProblems(definition, places, registers, cache, out);
  if (office) assigneeProblems(places, office, out);
  return out;
}

const place = (kind: "field" | "step" | "process", id: string, at?: string): Problem["where"] => (at ? { kind, id, place: at } : { kind, id });

function processProblems(d: ProcessDefinition, office: OfficeFacts | undefined, out: Problem[]) {
  const say = (code: string, at: string, message: string) => out.push({ severity: "error", code, where: place("process", d.key, at), message });
  if (!d.name.trim()) say("no-name", "name", "The process needs a name, for example: Store key.");
  if (!/^[A-Z][A-Z0-9]{1,7}$/.test(d.numbering.prefix)) say("bad-prefix", "numbering", `Request numbers start with 2 to 8 capital letters or digits, for example LOAN; "${d.numbering.prefix}" does not.`);
  if (d.owners.length === 0) say("no-owner", "owners", "Name at least one owner: somebody must be able to mend it.");
  if (d.starts.length === 0) say("no-start", "starts", "Nothing starts this process. Add a form start.");
  if (d.route.length === 0) say("no-route", "route", "The route is empty: a request would end at once. Add a first step.");
  if (d.calendar && office && !office.calendars.includes(d.calendar)) say("no-calendar", "calendar", `There is no working calendar "${d.calendar}".`);
}

function formProblems(d: ProcessDefinition, registers: Registers, cache: CheckCache, out: Problem[]) {
  const scopes = new Map<string, { scope: Scope; signature: string }>();
  const graph = new Map<string, string[]>();
  const seenNames = new Map<string, string>();
  walkFields(d.fields, (f, parents) => {
    const say = (severity: Problem["severity"], code: string, message: string, at?: string, mend?: Problem["mend"]) =>
      out.push({ severity, code, where: place("field", f.id, at), message, ...(mend ? { mend } : {}) });
    const lines = parents.find((p) => p.kind === "lines");
    const mistake = nameMistake(f.name);
    if (mistake) say("error", "bad-name", mistake, "name");
    const key = `${lines?.id ?? ""}|${f.name.toLowerCase()}`;
    if (seenNames.has(key)) say("error", "name-twice", `Two fields are called "${f.name}"; a formula could not tell them apart.`, "name");
    seenNames.set(key, f.id);
    if (f.kind === "choice" && !f.options?.length) say("error", "no-options", `"${f.name}" is a choice without anything to choose from.`, "options");
    if (f.kind === "look-up" && (!f.register || !registers[f.register]))
      say("error", "no-register", f.register ? `There is no register "${f.register}".` : `Say which register "${f.name}" looks in.`, "register");
    if (f.kind === "lines" && !f.fields?.length) say("error", "no-columns", `"${f.name}" has no columns yet.`);
    if (f.min && f.max && Number(f.min) > Number(f.max)) say("error", "no-range", `The least, ${f.min}, is more than the most, ${f.max}.`, "min");

    const group = lines?.id ?? "";
    if (!scopes.has(group)) {
      const scope = scopeOfField(d.fields, parents, registers);
      scopes.set(group, { scope, signature: `form|${JSON.stringify(scope)}` });
    }
    const { scope, signature } = scopes.get(group)!;
    for (const { place: at, formula, type } of fieldFormulas(f, registers)) {
      const checked = cache.check(formula, scope, signature, type);
      for (const p of checked.problems) out.push(inFormula(place("field", f.id, at), formula, p, mendField(f, at, p)));
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
    if (field) out.push({ severity: "error", code: "circle", where: place("field", field.id, "worked"), message: `These work each other out in a circle: ${[...circle, circle[0]].join(" → ")}.` });
  }
}

/** Names read, those of the same table written as "Lines.Price". */
function readsOf(ast: Node, lines: Field | undefined): string[] {
  const columns = new Set((lines?.fields ?? []).map((c) => c.name));
  return nameUses(ast).map((u) =>
    lines && columns.has(u.path[0]!) ? `${lines.name}.${u.path[0]}` : u.path.length > 1 ? `${u.path[0]}.${u.path[1]}` : u.path[0]!);
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

function mendField(f: Field, at: FormulaPlace, p: FormulaProblem): Problem["mend"] {
  if (!p.mend) return undefined;
  if (at.startsWith("check ")) {
    const i = Number(at.slice(6));
    return { label: p.mend.label, edit: { op: "field.set", id: f.id, patch: { checks: f.checks!.map((c, k) => (k === i ? { ...c, must: p.mend!.insert } : c)) } } };
  }
  return { label: p.mend.label, edit: { op: "field.set", id: f.id, patch: { [at]: p.mend.insert } } };
}

const inFormula = (where: Problem["where"], text: string, p: FormulaProblem, mend?: Problem["mend"]): Problem => ({
  severity: "error", code: p.code, where, message: p.message, formula: { text, from: p.from, to: p.to }, ...(mend ? { mend } : {}),
});

function formulaProblems(d: ProcessDefinition, places: ReadonlyMap<string, StepPlace>, registers: Registers, cache: CheckCache, out: Problem[]) {
  const signatures = new Map<Scope, string>();
  const order = [...places.keys()];
  const firstSet = new Map<string, { step: string; index: number }>();
  for (const f of flatFields(d.fields)) {
    if (f.worked || (d.access[START]?.[f.id] ?? "edit") === "edit") continue;
    const index = order.findIndex((s) => d.access[s]?.[f.id] === "edit" || setsField(places.get(s)!.step, f.id));
    firstSet.set(f.name, index < 0 ? { step: "", index: Infinity } : { step: order[index]!, index });
  }
  for (const f of routeFormulas(d, registers)) {
    let signature = signatures.get(f.scope);
    if (!signature) signatures.set(f.scope, (signature = `route|${JSON.stringify(f.scope)}`));
    const checked = cache.check(f.formula, f.scope, signature, f.type);
    const where = f.step ? place("step", f.step, f.place) : place("process", d.key, f.place);
    for (const p of checked.problems) out.push(inFormula(where, f.formula, p));
    if (!checked.ast || !f.step || f.place === "must") continue;
    const here = order.indexOf(f.step);
    for (const use of nameUses(checked.ast)) {
      const set = firstSet.get(use.path[0]!);
      if (set && here <= set.index && f.place !== "set")
        out.push({
          severity: "warning", code: "read-before-set", where,
          message: set.index === Infinity
            ? `"${use.path[0]}" is read here, but nobody can fill it in at any step.`
            : `"${use.path[0]}" is read here, but is first filled in at step ${places.get(set.step)!.number}.`,
        });
    }
  }
}

const setsField = (s: Step, field: string) =>
  (s.kind === "work out" && s.set.some((v) => v.field === field)) || (s.kind === "write" && s.into === field);

function routeProblems(d: ProcessDefinition, places: ReadonlyMap<string, StepPlace>, registers: Registers, out: Problem[]) {
  const last = d.route.at(-1);
  if (last && !leavesForGoodList(d.route))
    out.push({
      severity: "warning", code: "no-finish", where: place("step", last.id), message: `The route runs off its end here; the request would end as "Done".`,
      mend: { label: "Add a Finish", edit: { op: "step.add", to: { owner: null, list: null }, index: d.route.length, step: { id: freshId(places, "finish"), name: "Finish", kind: "finish", result: "Done", tone: "agree" } } },
    });
  for (const p of places.values()) {
    const { step } = p;
    const say = (severity: Problem["severity"], code: string, message: string, at?: string, mend?: Problem["mend"]) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const next = p.list[p.index + 1];
    if (next && leavesForGood(step))
      out.push({ severity: "error", code: "unreachable", where: place("step", next.id), message: `Nothing leads here: step ${p.number} never goes on.`, mend: { label: "Remove this step", edit: { op: "step.remove", id: next.id } } });
    switch (step.kind) {
      case "decide":
        if (step.answers.length === 0) say("error", "no-answers", `"${step.name}" has no answers: whoever is asked could say nothing.`, "answers");
        else if (step.answers.every((a) => a.returns)) say("error", "only-returns", `Every answer of "${step.name}" sends the request back; it could never go on.`, "answers");
        for (const [i, a] of step.answers.entries())
          if (step.answers.findIndex((b) => b.label.trim().toLowerCase() === a.label.trim().toLowerCase()) < i)
            say("error", "answer-twice", `Two answers of "${step.name}" are called "${a.label}".`, "answers");
        whoProblems(step, say);
        break;
      case "complete":
        whoProblems(step, say);
        break;
      case "choose": {
        if (step.ways.length === 0) say("error", "no-ways", `"${step.name}" has no ways to choose from.`);
        const open = step.ways.findIndex((w) => !w.when);
        if (open >= 0 && open < step.ways.length - 1) say("error", "way-never", `The way "${step.ways[open + 1]!.name}" is never taken: "${step.ways[open]!.name}" before it has no condition.`);
        if (open < 0 && step.ways.length > 0) {
          const example = uncovered(step, d, registers);
          say("error", "falls-through", example ?? `A request for which none of the conditions holds has no way on.`, "ways", {
            label: "Add a way for all others",
            edit: { op: "step.put", step: { ...step, ways: [...step.ways, { id: `${step.id}-other`, name: "otherwise", steps: [] }] } },
          });
        }
        break;
      }
      case "together":
        if (step.branches.length < 2) say("warning", "one-branch", `"${step.name}" has ${step.branches.length === 1 ? "one branch" : "no branches"}; side by side needs two.`);
        break;
      case "write": {
        const shape = registers[step.register];
        if (!shape) say("error", "no-register", step.register ? `There is no register "${step.register}".` : "Say which register is written.", "register");
        if (step.op !== "add" && !step.record) say("error", "no-record-rule", "Say which record is meant, for example: Store.", "record");
        if (step.op !== "remove" && step.values.length === 0) say("error", "no-values", "Nothing is written: add a column and its value.", "values");
        for (const v of step.values) if (shape && !shape.columns.some((c) => c.id === v.column)) say("error", "no-column", `${shape.name} has no column "${v.column}".`, "values");
        if (shape && step.op === "add") for (const c of shape.columns) if (c.needed && !step.values.some((v) => v.column === c.id)) say("error", "column-needed", `A new ${shape.one} needs "${c.name}".`, "values");
        if (step.each && !flatFields(d.fields).some((f) => f.kind === "lines" && f.name === step.each)) say("error", "no-lines", `There are no line items called "${step.each}".`, "each");
        if (step.into) {
          const f = flatFields(d.fields).find((x) => x.id === step.into);
          if (f?.kind !== "look-up" || f.register !== step.register) say("error", "bad-into", "The new record can only be kept in a look-up field of the same register.", "into");
        }
        break;
      }
      case "work out":
        for (const v of step.set) if (!flatFields(d.fields).some((f) => f.id === v.field)) say("error", "no-field", `There is no field "${v.field}".`, "set");
        if (step.set.length === 0) say("warning", "sets-nothing", "This step sets nothing yet.");
        break;
      case "jump": {
        const target = places.get(step.to);
        if (!target) say("error", "bad-jump", "Say which step to go on with.", "to");
        else if (branchesAround(target).join() !== branchesAround(p).join())
          say("error", "jump-across", `A jump cannot go into or out of branches that run side by side: step ${target.number} stands in other branches than this one.`, "to");
        else if (spins(step.id, places)) say("error", "endless", `From here the route runs in a circle without ever asking anybody.`, "to");
        break;
      }
      case "finish":
        if (!step.result.trim()) say("error", "no-result", "Name the result, for example: approved.", "result");
        break;
    }
  }
}

type Say = (severity: Problem["severity"], code: string, message: string, at?: string) => void;

function whoProblems(step: Extract<Step, { kind: "decide" | "complete" }>, say: Say) {
  if (step.kind === "decide" && step.who.rule.by === "requester" && !step.who.requesterToo)
    say("error", "own-request", "The requester would decide their own request.", "who");
  if (step.who.how === "share" && (step.who.share ?? 50) > 100) say("error", "bad-share", `${step.who.share}% of the people cannot agree.`, "who");
  if (step.who.rule.by === "formula" && !step.who.rule.formula.trim()) say("error", "no-who", "Say who is asked.", "who");
  const l = step.limit;
  if (l && !(l.otherwise.amount > 0)) say("error", "bad-limit", "A time limit is longer than nothing, for example: 2 working days.", "limit");
  for (const r of l?.rungs ?? []) {
    if (r.action.do === "answer" && step.kind === "decide") {
      const wanted = r.action.answer;
      if (!step.answers.some((a) => a.id === wanted)) say("error", "rung-answer", "The ladder answers with an answer this step does not have.", "limit");
    }
    if (r.every && !(r.every.amount > 0)) say("error", "bad-every", "A rung repeats after some time, for example: 1 working day.", "limit");
  }
}

/** Whether nothing that enters this step ever goes on behind it in its list. */
function leavesForGood(s: Step): boolean {
  if (s.kind === "finish" || s.kind === "jump") return true;
  if (s.kind === "decide") return s.answers.length > 0 && s.answers.every((a) => a.returns || leavesForGoodList(a.steps));
  if (s.kind === "choose") return s.ways.length > 0 && s.ways.every((w) => leavesForGoodList(w.steps)) && s.ways.some((w) => !w.when);
  if (s.kind === "together") return s.branches.some((b) => !b.when && leavesForGoodList(b.steps));
  return false;
}
const leavesForGoodList = (l: readonly Step[]): boolean => l.some(leavesForGood);

const freshId = (places: ReadonlyMap<string, unknown>, stem: string): string => {
  let n = 1;
  while (places.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
};

/** Whether steps that ask nobody lead from a step back to itself. */
function spins(from: string, places: ReadonlyMap<string, StepPlace>): boolean {
  const seen = new Set<string>();
  const visit = (id: string): boolean => {
    const step = places.get(id)?.step;
    if (!step || step.kind === "decide" || step.kind === "complete") return false;
    const next = nextOf(step, places);
    return next.some((n) => n === from || (!seen.has(n) && (seen.add(n), visit(n))));
  };
  return visit(from);
}

function nextOf(step: Step, places: ReadonlyMap<string, StepPlace>): string[] {
  if (step.kind === "jump") return [step.to];
  if (step.kind === "finish") return [];
  const after = following(places, step.id);
  const behind = after && after !== "branch end" ? [after.id] : after === "branch end" ? [places.get(step.id)!.owners.at(-1)!.step.id].flatMap((t) => { const f = following(places, t); return f && f !== "branch end" ? [f.id] : []; }) : [];
  const lists = listsOf(step);
  if (lists.length === 0) return behind;
  return [...lists.flatMap((l) => (l.steps[0] ? [l.steps[0].id] : [])), ...behind];
}

function assigneeProblems(places: ReadonlyMap<string, StepPlace>, office: OfficeFacts, out: Problem[]) {
  for (const { step } of places.values()) {
    const say = (severity: Problem["severity"], code: string, message: string, at: string) => out.push({ severity, code, where: place("step", step.id, at), message });
    const check = (r: Rule, at: string, saved: boolean) => {
      if (r.by === "person" && !office.people.some((p) => p.id === r.person)) say("error", "no-person", `Nobody here is "${r.person}".`, at);
      if (r.by === "group" && !(office.groups[r.group]?.length)) say("error", "empty-group", `The group "${r.group}" has nobody in it.`, at);
      if (r.by === "duty" && !office.duties[r.duty]) say("error", "no-holder", `Nobody holds the duty "${r.duty}".`, at);
      if (r.by === "manager" && (!r.of || r.of === "Requester") && !saved) {
        const alone = office.people.filter((p) => !p.manager);
        if (alone.length > 0)
          say("warning", "no-manager", `${alone.slice(0, 3).map((p) => p.name).join(", ")} ${alone.length === 1 ? "has" : "have"} no manager; a request of theirs would get stuck here. Name somebody else for that case.`, at);
      }
    };
    if (step.kind === "decide" || step.kind === "complete") {
      check(step.who.rule, "who", Boolean(step.who.fallback));
      if (step.who.fallback) check(step.who.fallback, "fallback", true);
    } else if (step.kind === "tell") check(step.who, "who", true);
  }
}

import { braceMistakes, nameUses, type Scope } from "../expression";
import { flatFields, type Registers } from "../form";
import { START, type ProcessDefinition, type Rule, type Step } from "./definition";
import { formProblems } from "./formProblems";
import { routeFormulas, templatesOf } from "./formulas";
import { CheckCache, inFormula, place, type OfficeFacts, type Problem } from "./problem";
import { placesOf, type StepPlace } from "./route";
import { routeProblems } from "./routeProblems";

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

function processProblems(d: ProcessDefinition, office: OfficeFacts | undefined, out: Problem[]) {
  const say = (code: string, at: string, message: string) =>
    out.push({ severity: "error", code, where: place("process", d.key, at), message });
  if (!d.name.trim()) say("no-name", "name", "The process needs a name, for example: Store key.");
  if (!/^[A-Z][A-Z0-9]{1,7}$/.test(d.numbering.prefix))
    say(
      "bad-prefix",
      "numbering",
      `Request numbers start with 2 to 8 capital letters or digits, for example LOAN; "${d.numbering.prefix}" does not.`,
    );
  if (d.owners.length === 0)
    say("no-owner", "owners", "Name at least one owner: somebody must be able to mend it.");
  if (d.starts.length === 0) say("no-start", "starts", "Nothing starts this process. Add a form start.");
  if (d.route.length === 0)
    say("no-route", "route", "The route is empty: a request would end at once. Add a first step.");
  if (d.calendar && office && !office.calendars.includes(d.calendar))
    say("no-calendar", "calendar", `There is no working calendar "${d.calendar}".`);
}

function formulaProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  registers: Registers,
  cache: CheckCache,
  out: Problem[],
) {
  const signatures = new Map<Scope, string>();
  const order = [...places.keys()];
  const firstSet = new Map<string, { step: string; index: number }>();
  for (const f of flatFields(d.fields)) {
    if (f.worked || (d.access[START]?.[f.id] ?? "edit") === "edit") continue;
    const index = order.findIndex(
      (s) => d.access[s]?.[f.id] === "edit" || setsField(places.get(s)!.step, f.id),
    );
    firstSet.set(f.name, index < 0 ? { step: "", index: Infinity } : { step: order[index]!, index });
  }
  const spot = (step: string, at: string) => (step ? place("step", step, at) : place("process", d.key, at));
  for (const t of templatesOf(d))
    for (const p of braceMistakes(t.template)) out.push(inFormula(spot(t.step, t.place), t.template, p));
  for (const f of routeFormulas(d, registers)) {
    let signature = signatures.get(f.scope);
    if (!signature) signatures.set(f.scope, (signature = `route|${JSON.stringify(f.scope)}`));
    const checked = cache.check(f.formula, f.scope, signature, f.type);
    const where = spot(f.step, f.place);
    for (const p of checked.problems) out.push(inFormula(where, f.formula, p));
    if (!checked.ast || !f.step || f.place === "must") continue;
    const here = order.indexOf(f.step);
    for (const use of nameUses(checked.ast)) {
      const set = firstSet.get(use.path[0]!);
      if (set && here <= set.index && f.place !== "set")
        out.push({
          severity: "warning",
          code: "read-before-set",
          where,
          message:
            set.index === Infinity
              ? `"${use.path[0]}" is read here, but nobody can fill it in at any step.`
              : `"${use.path[0]}" is read here, but is first filled in at step ${places.get(set.step)!.number}.`,
        });
    }
  }
}

const setsField = (s: Step, field: string) =>
  (s.kind === "work out" && s.set.some((v) => v.field === field)) || (s.kind === "write" && s.into === field);

function assigneeProblems(places: ReadonlyMap<string, StepPlace>, office: OfficeFacts, out: Problem[]) {
  for (const { step } of places.values()) {
    const say = (severity: Problem["severity"], code: string, message: string, at: string) =>
      out.push({ severity, code, where: place("step", step.id, at), message });
    const check = (r: Rule, at: string, saved: boolean) => {
      if (r.by === "person" && !office.people.some((p) => p.id === r.person))
        say("error", "no-person", `Nobody here is "${r.person}".`, at);
      if (r.by === "group" && !office.groups[r.group]?.length)
        say("error", "empty-group", `The group "${r.group}" has nobody in it.`, at);
      if (r.by === "duty" && !office.duties[r.duty])
        say("error", "no-holder", `Nobody holds the duty "${r.duty}".`, at);
      if (r.by === "manager" && (!r.of || r.of === "Requester") && !saved) {
        const alone = office.people.filter((p) => !p.manager);
        if (alone.length > 0)
          say(
            "warning",
            "no-manager",
            `${alone
              .slice(0, 3)
              .map((p) => p.name)
              .join(
                ", ",
              )} ${alone.length === 1 ? "has" : "have"} no manager; a request of theirs would get stuck here. Name somebody else for that case.`,
            at,
          );
      }
    };
    if (step.kind === "decide" || step.kind === "complete") {
      check(step.who.rule, "who", Boolean(step.who.fallback));
      if (step.who.fallback) check(step.who.fallback, "fallback", true);
    } else if (step.kind === "tell") check(step.who, "who", true);
  }
}

import { childNodes, type Node, type Scope } from "../expression";
import { findField, handsBack, takesIn, walkFields } from "../form";
import { stepKind } from "../kinds";
import {
  accessAt,
  comesWithout,
  filledByStarts,
  handedAccess,
  isHandedTo,
  standBeside,
  START,
  type Flow,
  type FormulaPlace,
  type ProcessDefinition,
  type StepPlace,
  type Surrounding,
} from "../route";
import { place, type CheckCache, type Problem } from "./problem";
import { settersOf } from "./settersOf";

/** Somebody thought of its being empty. */
const thinksOfNothing = (formula: string): boolean => /\bnull\b|\bcount\s*\(/.test(formula);

/** Values that may not be there yet where they are read, or where they are handed back. */
export function valueProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  flow: Flow,
  around: Surrounding,
  formulas: readonly FormulaPlace[],
  cache: CheckCache,
  out: Problem[],
) {
  const { kinds } = around;
  const known = new Map<string, ReadonlySet<string>>();
  const without = (setters: readonly string[]): ReadonlySet<string> => {
    const key = setters.join(" ");
    let come = known.get(key);
    if (!come) known.set(key, (come = comesWithout(d, places, flow, kinds, new Set(setters))));
    return come;
  };
  const setBy = settersOf(d, places, around, accessAt(d, START));
  const isIn = (id: string, owner: string) =>
    places.get(id)?.owners.some((o) => o.step.id === owner) ?? false;
  const awaits = (id: string) => {
    const step = places.get(id)?.step;
    return step !== undefined && stepKind(kinds, step).came !== undefined;
  };
  for (const f of formulas) {
    if (f.owner.kind !== "step" || f.ofRecord || f.inText || thinksOfNothing(f.formula)) continue;
    const { ast, reads } = cache.check(f.formula, f.scope, f.signature, f.type);
    if (!ast) continue;
    const at = f.owner.id;
    const warn = (code: string, message: string) =>
      out.push({ severity: "warning", code, where: place("step", at, f.place), message });
    const read = new Map(
      reads.references.flatMap((r) => {
        const what = r.target.t === "name" ? f.declared(r.name) : null;
        return what === null ? [] : [[what, r.name] as const];
      }),
    );
    for (const [what, name] of read) {
      const setters = what.startsWith("step ") ? [what.slice("step ".length)] : setBy.get(fieldOf(what));
      // Where nothing sets it before, that is said already.
      const before = setters?.filter((id) => flow.mayPrecede(id, at)) ?? [];
      if (!setters || before.length === 0 || setters.some((id) => isIn(id, at))) continue;
      // What is waited for is not there before.
      if (awaits(at)) continue;
      if (!without(setters).has(at)) continue;
      const numbers = before.map((id) => places.get(id)!.number);
      warn(
        "not-every-way",
        `“${name}” is read here, but a request can come here without ${stepsSaid(numbers)}; then it is empty. Say what counts then, as in: if ${name} = null then … else ….`,
      );
    }
    for (const name of firstOf(ast, f.scope)) {
      const what = f.declared(name) ?? "";
      const step = what.startsWith("step ") ? places.get(what.slice("step ".length)) : undefined;
      if (step && flow.mayPrecede(step.step.id, at) && stepKind(kinds, step.step).mayBeNothing?.(step.step))
        warn(
          "may-be-nothing",
          `Something of “${name}” is read here, but step ${step.number} goes on when it finds nothing; then it is empty. Let it stop or go its own way, or say what counts then.`,
        );
    }
  }
  waitProblems(d, places, formulas, around, cache, out);
  if (isHandedTo(d, kinds)) backProblems(d, places, flow, around, without, out);
}

const fieldOf = (what: string): string => (what.startsWith("field ") ? what.slice("field ".length) : "");

function stepsSaid(numbers: readonly string[]): string {
  if (numbers.length === 1) return `step ${numbers[0]!}, which sets it`;
  return `any of the steps that set it (${numbers.slice(0, 4).join(", ")}${numbers.length > 4 ? ", …" : ""})`;
}

/** Names of which one thing is taken: `Found.Title`, `Found[1]`. */
function firstOf(ast: Node, scope: Scope): ReadonlySet<string> {
  const out = new Set<string>();
  const visit = (n: Node) => {
    const at = n.k === "filter" && (n.by.k === "num" || n.by.k === "neg");
    // Of a list a name gives all that its things have under it.
    const one = (name: string) => (at ? true : n.k === "path" && scope[name]?.t !== "list");
    if ((n.k === "filter" || n.k === "path") && n.of.k === "name" && one(n.of.name)) out.add(n.of.name);
    childNodes(n).forEach(visit);
  };
  visit(ast);
  return out;
}

/** A wait for something that nothing can bring about while it is waited for. */
function waitProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  formulas: readonly FormulaPlace[],
  around: Surrounding,
  cache: CheckCache,
  out: Problem[],
) {
  const { kinds } = around;
  for (const f of formulas) {
    const p = f.owner.kind === "step" ? places.get(f.owner.id) : undefined;
    if (!p || stepKind(kinds, p.step).awaitsOnly?.(p.step) !== f.place) continue;
    const { ast, reads } = cache.check(f.formula, f.scope, f.signature, f.type);
    if (!ast) continue;
    // Of records, people and what cannot be told, anything may change at any time.
    const moves = reads.references.some((r) => {
      if (r.target.t === "entry") return r.target.of.startsWith("record ");
      if (r.target.t === "unknown" || r.target.t === "nothing") return true;
      const what = r.target.t === "name" ? f.declared(r.name) : null;
      return what !== null && mayChange(what, p, d, places, around);
    });
    if (moves || reads.wholes.length > 0) continue;
    out.push({
      severity: "warning",
      code: "nothing-ends",
      where: place("step", p.step.id, f.place),
      message:
        "Nothing can make this so while it is waited for: it reads no record, and no step in a branch beside sets what it reads. Add a limit, or put it beside the steps it waits for.",
    });
  }
}

/** Whether what a name means may become something else while a step is stood at. */
function mayChange(
  what: string,
  at: StepPlace,
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  { kinds }: Surrounding,
): boolean {
  const beside = (id: string) => standBeside(places.get(id), at);
  if (what.startsWith("step ")) {
    const step = places.get(what.slice("step ".length))?.step;
    // What was found is read anew each time.
    return step === undefined || stepKind(kinds, step).mayBeNothing !== undefined || beside(step.id);
  }
  const field = findField(d.fields, fieldOf(what))?.field;
  // A worked-out field is as what it reads.
  if (!field || field.worked || kinds.fields[field.kind].idOf === "record") return true;
  return [...places].some(([id, { step }]) => {
    const { asks, sets } = stepKind(kinds, step);
    const sees = accessAt(d, id)(field.id) === "edit";
    return beside(id) && (sets(step).includes(field.id) || (asks !== null && sees));
  });
}

/** What is handed back that nothing sets, or not on every way to an end. */
function backProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  flow: Flow,
  around: Surrounding,
  without: (setters: readonly string[]) => ReadonlySet<string>,
  out: Problem[],
) {
  const setBy = settersOf(d, places, around, handedAccess(d, filledByStarts(d, around.kinds)));
  walkFields(d.fields, (f) => {
    if (!handsBack(f) || takesIn(f) || f.worked) return;
    const setters = setBy.get(f.id);
    if (!setters) return;
    const warn = (message: string) =>
      out.push({ severity: "warning", code: "back-empty", where: place("field", f.id, "hand"), message });
    if (setters.length === 0)
      return warn(
        `“${f.name}” is handed back, but no step gives it a value. Set it with a Work out, or let somebody fill it in.`,
      );
    const come = without(setters);
    const ends = [...flow.ends].filter((id) => come.has(id) && !setters.includes(id));
    if (ends.length > 0)
      warn(
        `“${f.name}” is handed back, but it can end at step ${places.get(ends[0]!)!.number} with nothing having given it a value; then it is empty.`,
      );
  });
}

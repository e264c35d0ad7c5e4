import {
  context,
  DATETIME,
  mapTemplate,
  nameMistake,
  templateParts,
  PERSON,
  TEXT,
  YESNO,
  ANY,
  type Scope,
  type Type,
} from "../expression";
import {
  columnScope,
  flatFields,
  formScope,
  recordScope,
  REQUEST_SCOPE,
  fieldType,
  type Registers,
} from "../form";
import type { Assignment, Limit, ProcessDefinition, Rule, Step } from "./definition";
import { placesOf } from "./route";

/** One formula of the route: where it stands, what it must come to, and which names it may read. */
export interface RouteFormula {
  step: string;
  /** Where in the step: "who", "limit", "way <id>", "branch <id>", "value <column>", "record", "must", … */
  place: string;
  formula: string;
  type: Type;
  scope: Scope;
}

const OUTCOME: Type = context({ answer: TEXT, note: TEXT, by: PERSON, at: DATETIME });

/** The names a route formula may read: fields, Requester, Request, and the outcome of each named task step. */
export function routeScope(definition: ProcessDefinition, registers: Registers): Scope {
  const outcomes: Record<string, Type> = {};
  for (const { step } of placesOf(definition).values())
    if ((step.kind === "decide" || step.kind === "complete") && nameMistake(step.name) === null)
      outcomes[step.name] = OUTCOME;
  return { ...outcomes, ...REQUEST_SCOPE, ...formScope(definition.fields, registers) };
}

const PEOPLE: Type = ANY;

/** Every text with formulas in braces: the title of a request, what steps and rungs tell. */
export function templatesOf(
  definition: ProcessDefinition,
): { step: string; place: string; template: string }[] {
  return [
    { step: "", place: "title", template: definition.title },
    ...[...placesOf(definition).values()].flatMap(({ step }) =>
      stepTemplates(step).map((t) => ({ step: step.id, ...t })),
    ),
  ];
}

function stepTemplates(step: Step): { place: string; template: string }[] {
  if (step.kind === "tell")
    return [
      { place: "subject", template: step.subject },
      { place: "text", template: step.text },
    ];
  if (step.kind !== "decide" && step.kind !== "complete") return [];
  return (step.limit?.rungs ?? []).flatMap((rung) =>
    rung.action.do === "tell" ? [{ place: `rung ${rung.id} text`, template: rung.action.text }] : [],
  );
}

const formulasIn = (template: string) =>
  templateParts(template).flatMap((p) => ("formula" in p ? [p.formula] : []));

/**
 * Every formula of the route and the title. One place that knows where formulas stand, so that checking,
 * compiling and renaming cannot disagree about it.
 */
export function routeFormulas(definition: ProcessDefinition, registers: Registers): RouteFormula[] {
  const scope = routeScope(definition, registers);
  const lineScopes = new Map<string, Scope>();
  const out: RouteFormula[] = [];
  for (const formula of formulasIn(definition.title))
    if (formula) out.push({ step: "", place: "title", formula, type: ANY, scope });
  for (const { step } of placesOf(definition).values()) {
    const add = (place: string, formula: string | undefined, type: Type, s: Scope = scope) => {
      if (formula !== undefined && formula !== "")
        out.push({ step: step.id, place, formula, type, scope: s });
    };
    const rule = (place: string, r: Rule | undefined) => {
      if (r?.by === "duty") add(`${place} place`, r.place, TEXT);
      else if (r?.by === "manager") add(`${place} of`, r.of, PERSON);
      else if (r?.by === "formula") add(place, r.formula, PEOPLE);
    };
    for (const t of stepTemplates(step)) for (const f of formulasIn(t.template)) add(t.place, f, ANY);
    const people = (who: Assignment, limit: Limit | undefined) => {
      rule("who", who.rule);
      rule("fallback", who.fallback);
      limit?.rules?.forEach((r, i) => add(`limit ${i}`, r.when, YESNO));
      for (const rung of limit?.rungs ?? []) {
        if (rung.action.do === "hand over") rule(`rung ${rung.id}`, rung.action.to);
        else if (rung.action.do === "add") rule(`rung ${rung.id}`, rung.action.who);
        else if (rung.action.do === "tell") rule(`rung ${rung.id}`, rung.action.who);
      }
    };
    switch (step.kind) {
      case "decide":
      case "complete":
        people(step.who, step.limit);
        break;
      case "choose":
        for (const w of step.ways) add(`way ${w.id}`, w.when, YESNO);
        break;
      case "together":
        for (const b of step.branches) add(`branch ${b.id}`, b.when, YESNO);
        break;
      case "write": {
        const lines = step.each
          ? flatFields(definition.fields).find((f) => f.kind === "lines" && f.name === step.each)
          : undefined;
        if (lines && !lineScopes.has(lines.id))
          lineScopes.set(lines.id, { ...scope, ...columnScope(lines, registers) });
        const s = lines ? lineScopes.get(lines.id)! : scope;
        add("record", step.record, ANY, s);
        const shape = registers[step.register];
        for (const v of step.values) {
          const column = shape?.columns.find((c) => c.id === v.column);
          add(`value ${v.column}`, v.value, column ? fieldType(column, registers) : ANY, s);
        }
        if (step.must && shape) add("must", step.must, YESNO, recordScope(shape, registers));
        break;
      }
      case "work out":
        for (const v of step.set) {
          const field = flatFields(definition.fields).find((f) => f.id === v.field);
          add(`set ${v.field}`, v.value, field ? fieldType(field, registers) : ANY);
        }
        break;
      case "tell":
        rule("who", step.who);
        break;
    }
  }
  return out;
}

/** The same step with every formula that reads the process's names passed through `change`. */
export function mapStepFormulas(step: Step, change: (formula: string, each?: string) => string): Step {
  const rule = (r: Rule): Rule =>
    r.by === "duty" && r.place
      ? { ...r, place: change(r.place) }
      : r.by === "manager" && r.of
        ? { ...r, of: change(r.of) }
        : r.by === "formula"
          ? { ...r, formula: change(r.formula) }
          : r;
  const who = (a: Assignment): Assignment => ({
    ...a,
    rule: rule(a.rule),
    ...(a.fallback ? { fallback: rule(a.fallback) } : {}),
  });
  const limit = (l: Limit): Limit => ({
    ...l,
    ...(l.rules ? { rules: l.rules.map((r) => ({ ...r, when: change(r.when) })) } : {}),
    rungs: l.rungs.map((r) => {
      const a = r.action;
      if (a.do === "hand over") return { ...r, action: { ...a, to: rule(a.to) } };
      if (a.do === "add") return { ...r, action: { ...a, who: rule(a.who) } };
      if (a.do === "tell")
        return { ...r, action: { ...a, who: rule(a.who), text: mapTemplate(a.text, change) } };
      return r;
    }),
  });
  const all = (steps: Step[]) => steps.map((s) => mapStepFormulas(s, change));
  switch (step.kind) {
    case "decide":
      return {
        ...step,
        who: who(step.who),
        ...(step.limit ? { limit: limit(step.limit) } : {}),
        answers: step.answers.map((a) => ({ ...a, steps: all(a.steps) })),
      };
    case "complete":
      return { ...step, who: who(step.who), ...(step.limit ? { limit: limit(step.limit) } : {}) };
    case "choose":
      return {
        ...step,
        ways: step.ways.map((w) => ({
          ...w,
          ...(w.when ? { when: change(w.when) } : {}),
          steps: all(w.steps),
        })),
      };
    case "together":
      return {
        ...step,
        branches: step.branches.map((b) => ({
          ...b,
          ...(b.when ? { when: change(b.when) } : {}),
          steps: all(b.steps),
        })),
      };
    case "write":
      return {
        ...step,
        ...(step.record ? { record: change(step.record, step.each) } : {}),
        values: step.values.map((v) => ({ ...v, value: change(v.value, step.each) })),
      };
    case "work out":
      return { ...step, set: step.set.map((v) => ({ ...v, value: change(v.value) })) };
    case "tell":
      return {
        ...step,
        who: rule(step.who),
        subject: mapTemplate(step.subject, change),
        text: mapTemplate(step.text, change),
      };
    default:
      return step;
  }
}

import { findField, isGroup, walkFields, type Field } from "../form";
import { stepKind, type Kinds, type Say } from "../kinds";
import {
  accessAt,
  type Assignment,
  type FormulaPlace,
  type ProcessDefinition,
  type Signing,
  type Step,
  type StepPlace,
} from "../route";
import { fieldsTold } from "./fieldsTold";
import { place, type CheckCache, type Problem } from "./problem";

interface Around {
  d: ProcessDefinition;
  places: ReadonlyMap<string, StepPlace>;
  formulas: readonly FormulaPlace[];
  cache: CheckCache;
  kinds: Kinds;
  /** Whether one step can come before another, in the same round where both are in one. */
  mayPrecede(a: string, b: string): boolean;
}

/** What is wrong with the signing of documents: what is signed, by whom, and whether they see what they sign. */
export function signingProblems(around: Around, out: Problem[]) {
  const { places, kinds } = around;
  for (const { step } of places.values()) {
    const { asks } = stepKind(kinds, step);
    const signs = asks?.signs?.(step);
    if (!asks || !signs) continue;
    const say: Say = (severity, code, message, at = "signs", mend) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const field = fieldProblems(step, signs, around, say);
    whoProblems(asks.who(step), say);
    if (asks.beside?.(step))
      say(
        "error",
        "signed-beside",
        "What is signed has to be waited for; have the route wait for this step.",
        "beside",
      );
    intoProblems(signs, around.d, say);
    const templates = documentProblems(step, signs, around, say);
    if (!field || templates.length === 0) continue;
    if (!templates.some((id) => hasPlace(around.d, id, field)))
      say(
        "warning",
        "no-place-to-sign",
        `The template has no place for “${field.name}”: write {picture ${field.name}, 50 mm} where it belongs. Without one it stands on the closing page only.`,
      );
    changedThere(step, field, templates, around, say);
  }
}

function fieldProblems(step: Step, { field: id }: Signing, { d, kinds }: Around, say: Say): Field | null {
  const found = findField(d.fields, id);
  const { field } = found ?? {};
  if (!field || !kinds.fields[field.kind].signs || found?.parents.some((p) => p.kind === "lines")) {
    say(
      "error",
      "no-signature",
      "Say in which field they sign: one of the kind signature, not in line items.",
    );
    return null;
  }
  if (accessAt(d, step.id)(id) !== "edit")
    say(
      "error",
      "cannot-sign",
      `“${field.name}” cannot be filled in at this step, so nobody can sign.`,
      undefined,
      {
        label: `Let “${field.name}” be filled in here`,
        edit: { op: "access.set", step: step.id, field: id, access: "edit" },
      },
    );
  else if (field.shown || field.worked || found!.parents.some((p) => p.shown))
    say(
      "warning",
      "may-not-sign",
      `“${field.name}” is not always shown. Where it is not, nobody can sign, and the step is never done.`,
    );
  return field;
}

function whoProblems(who: Assignment, say: Say) {
  if (who.how !== "one" && who.how !== "first")
    say(
      "error",
      "several-sign",
      "One signature is one person's: ask one of them here, and give each who signs a step and a field of their own.",
      "who",
    );
}

function intoProblems({ into }: Signing, d: ProcessDefinition, say: Say) {
  if (into === undefined) return;
  const found = findField(d.fields, into);
  const { field } = found ?? {};
  if (!field || found?.parents.some((p) => p.kind === "lines"))
    say("error", "no-field", "The field that is to keep the signed document is not there any more.");
  else if (field.kind !== "file" && field.kind !== "files")
    say("error", "no-field", `“${field.name}” keeps no files. Choose a field that does.`);
}

/** @returns the templates that what is signed may be made of */
function documentProblems(step: Step, { document }: Signing, around: Around, say: Say): readonly string[] {
  const { places, kinds, mayPrecede } = around;
  const of = places.get(document)?.step;
  if (!of || of.id === step.id) {
    say("error", "nothing-to-sign", "Say which document is signed: choose the step that draws it up.");
    return [];
  }
  const kind = stepKind(kinds, of);
  if (!kind.pages?.(of))
    say(
      "error",
      "no-pages-to-sign",
      `“${of.name}” comes to no PDF whose pages could be shown. Have it drawn up as PDF, or as PDF and DOCX.`,
    );
  else if (!mayPrecede(of.id, step.id))
    say(
      "error",
      "signed-too-early",
      `“${of.name}” never comes before this step${roundsOf(of.id, around) === roundsOf(step.id, around) ? "" : ", nor in its rounds"}; there would be nothing to sign.`,
    );
  return templatesOf(of, places, kinds);
}

/** The templates of what a step comes to. What is signed by several is handed on from one to the next. */
function templatesOf(step: Step, places: Around["places"], kinds: Kinds): readonly string[] {
  const seen = new Set<string>();
  for (let s: Step | undefined = step; s && !seen.has(s.id);) {
    seen.add(s.id);
    const { documents, asks } = stepKind(kinds, s);
    const drawn: readonly string[] = documents?.(s) ?? [];
    if (drawn.length > 0) return drawn;
    s = places.get(asks?.signs?.(s)?.document ?? "")?.step;
  }
  return [];
}

/** By template the fields in whose places it is signed later: nobody has filled them in when it is drawn up. */
export function fieldsToBeSigned(
  places: Around["places"],
  kinds: Kinds,
): ReadonlyMap<string, ReadonlySet<string>> {
  const out = new Map<string, Set<string>>();
  for (const { step } of places.values()) {
    const signs = stepKind(kinds, step).asks?.signs?.(step);
    if (!signs) continue;
    for (const id of templatesOf(step, places, kinds))
      out.set(id, (out.get(id) ?? new Set()).add(signs.field));
  }
  return out;
}

/** The rounds around a step, from the outside in. */
const roundsOf = (id: string, { places, kinds }: Around): string =>
  (places.get(id)?.owners ?? [])
    .filter((o) => stepKind(kinds, o.step).rounds)
    .map((o) => o.step.id)
    .join(" ");

const hasPlace = (d: ProcessDefinition, template: string, field: Field): boolean =>
  (d.documents?.find((x) => x.id === template)?.tags ?? []).some(
    (t) => t.tag === "picture" && t.of.trim() === field.name,
  );

/** What the document says and whoever signs may change, or does not see: they sign it as it was drawn up. */
function changedThere(
  step: Step,
  field: Field,
  templates: readonly string[],
  { d, formulas, cache }: Around,
  say: Say,
) {
  const access = accessAt(d, step.id);
  const readBy = (f: FormulaPlace): string[] => {
    const { ast, reads } = cache.check(f.formula, f.scope, f.signature, f.type);
    return ast ? fieldsTold(f, reads, d.fields) : [];
  };
  const said = new Set(
    formulas.filter((f) => f.owner.kind === "document" && templates.includes(f.owner.id)).flatMap(readBy),
  );
  // What is worked out changes with what it is worked out from, through any number of fields.
  const behind = new Set(said);
  const worked = formulas.filter((f) => f.owner.kind === "field" && f.place === "worked");
  for (const id of behind)
    for (const f of worked) if (f.owner.id === id) for (const other of readBy(f)) behind.add(other);
  const all: Field[] = [];
  walkFields(d.fields, (f) => void (f.id !== field.id && !isGroup(f) && all.push(f)));
  const named = all.filter((f) => said.has(f.id));
  const changed = all.find((f) => behind.has(f.id) && access(f.id) === "edit" && !f.worked);
  if (changed)
    say(
      "warning",
      "changed-while-signed",
      `“${changed.name}” can be changed at this step, and the document says it. What is signed says what it was before. Have it filled in earlier.`,
    );
  const hidden = named.find((f) => access(f.id) === "hide");
  if (hidden)
    say(
      "warning",
      "hidden-in-text",
      `“${hidden.name}” is hidden at this step, and the document that is signed here tells it.`,
    );
}

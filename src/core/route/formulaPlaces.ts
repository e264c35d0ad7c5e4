import { neverPlace, ruleKind, rungKind, startKind, stepKind, type FormulaWalk, type Spot } from "../kinds";
import {
  ANY,
  DATE,
  DATETIME,
  DAYS,
  listOf,
  mapTemplate,
  NUMBER,
  YESNO,
  type Scope,
  type Type,
} from "../expression";
import { fieldType, findField, FORM_ENTRY, mapFieldFormulas, type Field } from "../form";
import type { ProcessDefinition, Step } from "./definition";
import {
  ASK_MAIL_PLACES,
  LIMIT_PLACES,
  offerPlace,
  rungPlaces,
  type LimitFrom,
  type RuleLength,
} from "./asking";
import { mapDocument } from "./documentFormulas";
import { mapLetter } from "./letterFormulas";
import { takenType } from "./portType";
import { RouteScopes } from "./routeScopes";
import type { FormulaOwner, Surrounding } from "./surrounding";
import { withLists } from "./tree";

/** One formula of a definition: where it stands, what it must come to, and which names it may read. */
export interface FormulaPlace {
  owner: FormulaOwner;
  /** Within its owner: "who", "way small", "value status". */
  place: string;
  /** What stands there, for a reader. */
  says: string;
  formula: string;
  type: Type;
  scope: Scope;
  /** Which thing a name means here, as `ScopeHere` says; null for none. */
  declared(name: string): string | null;
  /** Which thing an entry of the form by its name (`FORM`) means; absent where it cannot be read so. */
  entries?: { of: string; declared(name: string): string | null };
  /** The same for all places that read the same names. */
  signature: string;
  /** Whose columns come before the names of the route: the id of line items, or the key of a register; null for none. */
  rowsOf: string | null;
  /** Reads a record's columns, or a mail, and nothing of the process. */
  ofRecord: boolean;
  /** The register whose columns can be read by their names; null for none. */
  columnsOf: string | null;
  /** One of several conditions that are tried one after the other. */
  inOrder: boolean;
  /** Stands in the braces of a text. */
  inText: boolean;
  /** Stands in something that is there for each thing of a list, whose entries it reads by their own names. */
  inLists: boolean;
  /** What it comes to is taken apart by names: rows of line items are made of it. */
  intoRows: boolean;
  /** What it comes to is only gone through, each thing of it by formulas beside it. */
  goneThrough: boolean;
}
/** A text with formulas in braces, whole. */
export interface TemplatePlace {
  owner: FormulaOwner;
  place: string;
  says: string;
  template: string;
}
export interface FormulaChange {
  formula(p: FormulaPlace): string;
  template?(p: TemplatePlace): void;
}

/**
 * The definition with every formula passed through `change`: the title, starts, fields, steps, their rules, limits
 * and rungs, letters, ladders, templates. The only walk over formulas there is, so that checking, compiling and renaming cannot disagree.
 */
export function mapFormulas(
  d: ProcessDefinition,
  around: Surrounding,
  change: FormulaChange,
): ProcessDefinition {
  const { kinds, registers } = around;
  const scopes = new RouteScopes(d, around);
  const typeOf = (w: Spot["wants"]): Type => {
    if ("t" in w) return w;
    if ("port" in w) return w.port ? takenType(w.port, around) : ANY;
    if ("field" in w || "listOf" in w) {
      const f = findField(d.fields, "field" in w ? w.field : w.listOf)?.field;
      // Rows are made of things by the names of their columns; what does not fit is told when they are.
      const type = f && f.kind !== "lines" ? fieldType(f, around) : ANY;
      // What holds several is a list already.
      return "field" in w || (f && kinds.fields[f.kind].many) ? type : listOf(type);
    }
    const column = registers[w.of]?.columns.find((c) => c.id === w.column);
    return column ? fieldType(column, around) : ANY;
  };
  const placed = (owner: FormulaOwner, spot: Spot, formula: string, inText = false): string => {
    const { scope, signature, declared, ofForm } = scopes.of(owner, spot.reads);
    const rowsOf = columnsFirst(spot.reads);
    const ofRecord = spot.reads === "mail" || (typeof spot.reads === "object" && "recordOf" in spot.reads);
    const columnsOf = registerOf(spot.reads);
    const { place, says } = spot;
    return change.formula({
      owner,
      place,
      says,
      formula,
      type: typeOf(spot.wants),
      scope,
      declared,
      ...(ofForm ? { entries: { of: FORM_ENTRY, declared: ofForm } } : {}),
      signature,
      rowsOf,
      ofRecord,
      columnsOf,
      inOrder: spot.inOrder === true,
      inText,
      inLists: typeof spot.reads === "object" && "eachIn" in spot.reads,
      goneThrough: spot.goneThrough === true,
      intoRows:
        ("port" in spot.wants && spot.wants.port?.kind === "lines") ||
        ("field" in spot.wants && findField(d.fields, spot.wants.field)?.field.kind === "lines"),
    });
  };
  const offered = (field: string): Spot => ({
    place: offerPlace(field),
    says: `what can be chosen as “${findField(d.fields, field)?.field.name ?? field}”`,
    wants: { listOf: field },
  });
  const walkOf = (owner: FormulaOwner): FormulaWalk => {
    const walk: FormulaWalk = {
      formula: (spot, text) => (text ? (placed(owner, spot, text) as typeof text) : text),
      template: (spot, text) => {
        change.template?.({ owner, place: spot.place, says: spot.says, template: text });
        return mapTemplate(text, (f) => (f ? placed(owner, { ...spot, wants: ANY }, f, true) : f));
      },
      rule: (place, says, r, reach) =>
        r ? (ruleKind(kinds, r).formulas(r, place, says, walk, reach) as typeof r) : r,
      limit: (l) =>
        l && {
          ...l,
          ...(l.rules
            ? {
                rules: l.rules.map((r, i) => ({
                  ...r,
                  when: walk.formula(
                    {
                      place: LIMIT_PLACES.when(i),
                      says: `the condition of length ${i + 1} of the limit`,
                      wants: YESNO,
                    },
                    r.when,
                  ),
                  length: mapRuleLength(r.length, i, walk),
                })),
              }
            : {}),
          ...(l.from && l.from.by !== "start" ? { from: mapFrom(l.from, walk) } : {}),
          rungs: walk.rungs(l.rungs),
        },
      rungs: (rungs) =>
        rungs.map((r) => ({
          ...r,
          ...(r.if === undefined
            ? {}
            : {
                if: walk.formula(
                  {
                    place: rungPlaces.if(r.id),
                    says: "what must hold for a rung of the ladder",
                    wants: YESNO,
                  },
                  r.if,
                ),
              }),
          action: rungKind(kinds, r.action).formulas(r.action, rungPlaces.of(r.id), walk),
        })),
      asks: (s) => ({
        ...s,
        who: {
          ...s.who,
          rule: walk.rule("who", "who is asked", s.who.rule),
          ...(s.who.fallback
            ? { fallback: walk.rule("fallback", "who is asked when nobody is found", s.who.fallback) }
            : {}),
          ...(s.who.never
            ? { never: s.who.never.map((r, i) => walk.rule(neverPlace(i), "who is never asked", r)) }
            : {}),
        },
        ...(s.limit ? { limit: walk.limit(s.limit) } : {}),
        ...(s.offers
          ? { offers: s.offers.map((o) => ({ ...o, of: walk.formula(offered(o.field), o.of) })) }
          : {}),
        ...(s.byMail
          ? {
              byMail: {
                ...s.byMail,
                subject: walk.template(
                  { place: ASK_MAIL_PLACES.subject, says: "the subject of the mail to those asked" },
                  s.byMail.subject,
                ),
                text: walk.template(
                  { place: ASK_MAIL_PLACES.text, says: "the text of the mail to those asked" },
                  s.byMail.text,
                ),
              },
            }
          : {}),
      }),
    };
    return walk;
  };
  const step = (s: Step): Step =>
    withLists(stepKind(kinds, s).formulas(s, walkOf({ kind: "step", id: s.id })), kinds, (_, l) =>
      l.map(step),
    );
  const field = (f: Field, lines: string | null): Field => {
    if (f.text)
      change.template?.({
        owner: { kind: "field", id: f.id },
        place: "text",
        says: `the text of “${f.name}”`,
        template: f.text,
      });
    const own = mapFieldFormulas(f, around, (spot, text) =>
      placed(
        { kind: "field", id: f.id },
        lines ? { ...spot, reads: { ...spot.reads, rowsOf: lines } } : spot,
        text,
      ),
    );
    return own.fields
      ? { ...own, fields: own.fields.map((c) => field(c, f.kind === "lines" ? f.id : lines)) }
      : own;
  };
  return {
    ...d,
    title: walkOf({ kind: "process", id: "" }).template(
      { place: "title", says: "the title of a request" },
      d.title,
    ),
    ...(d.limit ? { limit: walkOf({ kind: "process", id: "" }).limit(d.limit) } : {}),
    starts: d.starts.map((s) => startKind(kinds, s).formulas(s, walkOf({ kind: "start", id: s.id }))),
    fields: d.fields.map((f) => field(f, null)),
    route: d.route.map(step),
    ...(d.letters
      ? { letters: d.letters.map((l) => mapLetter(l, walkOf({ kind: "letter", id: l.id }))) }
      : {}),
    ...(d.ladders
      ? {
          ladders: d.ladders.map((l) => ({
            ...l,
            rungs: walkOf({ kind: "ladder", id: l.id }).rungs(l.rungs),
          })),
        }
      : {}),
    ...(d.documents
      ? { documents: d.documents.map((x) => mapDocument(x, walkOf({ kind: "document", id: x.id }))) }
      : {}),
  };
}

/** What formulas of limits come to. */
const OF_LENGTH = { count: NUMBER, lasting: DAYS, day: DATE, moment: DATETIME };

function mapFrom(from: Exclude<LimitFrom, { by: "start" }>, walk: FormulaWalk): LimitFrom {
  const spot = { place: LIMIT_PLACES.from, says: "from when the limit counts", wants: OF_LENGTH[from.by] };
  return { ...from, formula: walk.formula(spot, from.formula) };
}

function mapRuleLength(length: RuleLength, rule: number, walk: FormulaWalk): RuleLength {
  if ("amount" in length) return length;
  const says = `length ${rule + 1} of the limit`;
  const spot = { place: LIMIT_PLACES.length(rule), says, wants: OF_LENGTH[length.by] };
  return { ...length, formula: walk.formula(spot, length.formula) };
}

/** Every formula of a definition, in reading order. */
export function formulaPlaces(d: ProcessDefinition, around: Surrounding): FormulaPlace[] {
  const out: FormulaPlace[] = [];
  mapFormulas(d, around, { formula: (p) => (out.push(p), p.formula) });
  return out;
}

/** Every text with formulas in braces. */
export function templatePlaces(d: ProcessDefinition, around: Surrounding): TemplatePlace[] {
  const out: TemplatePlace[] = [];
  mapFormulas(d, around, { formula: (p) => p.formula, template: (p) => void out.push(p) });
  return out;
}

/** Whose columns a formula reads before the names of the route. */
function columnsFirst(reads: Spot["reads"]): string | null {
  if (typeof reads !== "object") return null;
  if ("columnsOf" in reads) return reads.rowsOf ?? reads.columnsOf;
  return "rowsOf" in reads ? reads.rowsOf : null;
}

function registerOf(reads: Spot["reads"]): string | null {
  if (typeof reads !== "object") return null;
  if ("columnsOf" in reads) return reads.columnsOf;
  return "recordOf" in reads ? reads.recordOf : null;
}

/** A formula with one space between the words of its names, which may be written with more. */
export const spaced = (formula: string): string => formula.replace(/\s+/g, " ");

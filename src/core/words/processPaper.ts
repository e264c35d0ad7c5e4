import { lengthInWords } from "../calendar";
import { limitFromInWords, limitStillInWords, ruleLengthInWords } from "./limitWords";
import { flatFields, type Field } from "../form";
import { neverPlace, rungKind, ruleKind, startKind, stepKind, type FormulaWalk, type Kinds } from "../kinds";
import { ruleWords } from "../engine";
import type { Paper, PaperBlock, PaperFact } from "../paper";
import { listsOf, placesOf, type ProcessDefinition, type Rule, type Rung, type StepPlace } from "../route";
import { nextInWords } from "./nextInWords";

/** What a process is told by besides what its definition says. */
export interface ProcessToPrint {
  definition: ProcessDefinition;
  /** What of it is printed: "as it is being designed". */
  version: string;
  /** Who printed it, and when. */
  foot: string;
  language: string;
  person(id: string): string;
  register(key: string): string;
}

/** Form and route of a process as they stand on its sheets, to be read on paper: every formula, text and rule of each step. */
export function processPaper(p: ProcessToPrint, kinds: Kinds): Paper {
  const { definition: d } = p;
  const places = placesOf(d, kinds);
  const owners = d.owners.map((id) => p.person(id)).join(", ");
  return {
    title: d.name,
    above: p.version,
    foot: p.foot,
    language: p.language,
    blocks: [
      ...(d.purpose ? [{ is: "text" as const, text: d.purpose }] : []),
      {
        is: "facts",
        facts: [
          { name: "Owners", value: owners || "nobody" },
          { name: "Numbers", value: `${d.numbering.prefix}-${"1".padStart(d.numbering.digits, "0")}` },
          ...(d.title ? [{ name: "A request is called", value: d.title }] : []),
        ],
      },
      { is: "heading", level: 2, text: "Form" },
      formTable(d.fields),
      { is: "heading", level: 2, text: "Route" },
      { is: "heading", level: 3, text: "1  Start" },
      { is: "list", items: d.starts.map((s) => startKind(kinds, s).words(s)) },
      ...[...places.values()].flatMap((at) => stepBlocks(p, at, places, kinds)),
    ],
  };
}

/** What stands in another is set in, by a dash each. */
function formTable(fields: readonly Field[]): PaperBlock {
  const when = (text: string | undefined) => (text === "true" ? "always" : (text ?? ""));
  const rowsOf = (all: readonly Field[], deep: string): string[][] =>
    all.flatMap((f) => [
      [
        `${deep}${f.name}`,
        f.kind,
        when(f.needed),
        when(f.shown),
        [f.worked, ...(f.checks ?? []).map((c) => `${c.must}: ${c.say}`)].filter(Boolean).join("\n"),
      ],
      ...rowsOf(f.fields ?? [], `${deep}– `),
    ]);
  const rows = rowsOf(fields, "");
  const head = ["Field", "Kind", "Needed when", "Shown when", "Worked out as, checked by"];
  return { is: "table", head: head.map((name) => ({ name, figures: false })), rows, sums: null };
}

function stepBlocks(
  p: ProcessToPrint,
  { step, number }: StepPlace,
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
): PaperBlock[] {
  const kind = stepKind(kinds, step);
  const facts: PaperFact[] = [];
  const searched = kind.searches?.(step);
  if (searched?.register) facts.push({ name: "Register", value: p.register(searched.register) });
  for (const id of kind.documents?.(step) ?? [])
    facts.push({ name: "Template", value: p.definition.documents?.find((x) => x.id === id)?.name ?? id });
  kind.formulas(
    step,
    saying((name, value) => facts.push({ name, value }), p, kinds),
  );
  for (const { answer, then } of nextInWords({ places, kinds }, step.id))
    facts.push({ name: `Where “${answer}”`, value: then });
  const exit = kind.exit(step);
  if (exit)
    facts.push(
      "ends" in exit
        ? { name: "Ends as", value: exit.ends }
        : { name: "Goes to", value: stepNamed(places, exit.to) },
    );
  const ways = kind.asks ? [] : waysOf(step, places, kinds);
  return [
    { is: "heading", level: 3, text: kind.heading ? step.name : `${number}  ${kind.verb} · ${step.name}` },
    ...(step.note ? [{ is: "text" as const, text: step.note, quiet: true as const }] : []),
    ...(facts.length > 0 ? [{ is: "facts" as const, facts: facts.map(tidied) }] : []),
    ...(ways.length > 0 ? [{ is: "list" as const, items: ways }] : []),
  ];
}

const stepNamed = (places: ReadonlyMap<string, StepPlace>, id: string): string => {
  const to = places.get(id);
  return to ? `${to.number} ${to.step.name}` : id;
};

/** Each of the lists a step holds, with where it begins. */
function waysOf(step: StepPlace["step"], places: ReadonlyMap<string, StepPlace>, kinds: Kinds): string[] {
  if (stepKind(kinds, step).heading) return [];
  return listsOf(step, kinds).map((l) => {
    const first = l.steps[0];
    return `${l.name}: ${first ? stepNamed(places, first.id) : "goes on"}`;
  });
}

const tidied = ({ name, value }: PaperFact): PaperFact => ({
  name: name.charAt(0).toUpperCase() + name.slice(1),
  value,
});

/** A walk over all that a step goes by, which says each of it. */
function saying(add: (name: string, value: string) => void, p: ProcessToPrint, kinds: Kinds): FormulaWalk {
  const places = placesOf(p.definition, kinds);
  const stepName = (id: string) => places.get(id)?.step.name ?? id;
  const ruleSaid = (r: Rule, inRung = false) =>
    ruleWords(kinds, r, { person: p.person, step: stepName, inRung });
  const walk: FormulaWalk = {
    formula(spot, text) {
      if (text) add(spot.says, text);
      return text;
    },
    template(spot, text) {
      if (text) add(spot.says, text);
      return text;
    },
    rule(place, says, r) {
      if (!r) return r;
      add(says, ruleSaid(r));
      return ruleKind(kinds, r).formulas(r, place, says, walk) as typeof r;
    },
    limit(l) {
      if (!l) return l;
      const rules = (l.rules ?? []).map((r) => `${ruleLengthInWords(r.length)} where ${r.when}`);
      add("how long it may take", [...rules, lengthInWords(l.otherwise)].join("; else "));
      if (l.from) add("the limit counts", limitFromInWords(l.from));
      if (l.still) add("the limit stands still", limitStillInWords[l.still]);
      const ladder = p.definition.ladders?.find((x) => x.id === l.ladder);
      if (ladder) add("ladder", ladder.name);
      walk.rungs(ladder?.rungs ?? l.rungs);
      return l;
    },
    rungs(rungs) {
      for (const r of rungs)
        add(
          r.if === undefined ? rungWhen(r) : `${rungWhen(r)}, where ${r.if}`,
          rungKind(kinds, r.action).words(r.action, (x) => ruleSaid(x, true)),
        );
      return rungs;
    },
    asks(s) {
      const { rule, how, share, number, fallback, requesterToo, never = [], instead, turns } = s.who;
      const many = how === "number" ? ` (${number ?? 1})` : "";
      walk.rule("who", `who is asked, ${HOW[how]}${many}${share === undefined ? "" : ` (${share} %)`}`, rule);
      if (fallback) walk.rule("fallback", "when nobody is found", fallback);
      if (s.who.wins) add("the answer that must win", answerOf(p.definition, kinds, s.who.wins));
      if (s.who.waits) add("nothing is decided", "before everybody has answered");
      if (s.who.ties) add("of answers given as often", "the one standing first counts");
      if (requesterToo) add("the requester", "may answer, too");
      never.forEach((r, i) => walk.rule(neverPlace(i), "who is never asked", r));
      if (turns)
        add("of several", turns === "in turn" ? "whose turn it is" : "who has the fewest open tasks");
      if (instead) add("in the place of whoever may not be asked", "their manager");
      walk.limit(s.limit);
      for (const o of s.offers ?? [])
        add(`what can be chosen as “${nameOf(p.definition.fields, o.field)}”`, o.of);
      return s;
    },
  };
  return walk;
}

/** What an answer of some step is called. */
const answerOf = (d: ProcessDefinition, kinds: Kinds, id: string): string =>
  [...placesOf(d, kinds).values()]
    .flatMap(({ step }) => stepKind(kinds, step).asks?.answers(step) ?? [])
    .find((a) => a.id === id)?.label ?? id;

const HOW = {
  one: "one of them",
  first: "the first to answer",
  all: "all of them",
  share: "a share of them",
  number: "so many of them",
  order: "all of them, one after another",
} as const;

const nameOf = (fields: readonly Field[], id: string): string =>
  flatFields(fields).find((f) => f.id === id)?.name ?? id;

function rungWhen({ when, length, every, times }: Rung): string {
  const at = length && when !== "at" ? `${lengthInWords(length)} ${when} the limit` : `${when} the limit`;
  if (!every) return at;
  return `${at}, every ${lengthInWords(every)}${times === undefined ? "" : `, ${times} times`}`;
}

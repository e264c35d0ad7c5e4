import { portsOf, type Kinds, type LiveProcedure, type OfficeFacts } from "../kinds";
import type { Registers } from "../form";
import {
  flowOf,
  formulaPlaces,
  idMistakes,
  idSentence,
  placesOf,
  handsOver,
  isHandedTo,
  letsBegin,
  RouteScopes,
  type ProcessDefinition,
} from "../route";
import { askProblems } from "./askProblems";
import { conditionProblems } from "./conditionProblems";
import { formProblems } from "./formProblems";
import { formulaProblems } from "./formulaProblems";
import { mailStartProblems, type MailTaker } from "./mailStartProblems";
import { documentProblems } from "./documentProblems";
import { signingProblems } from "./signingProblems";
import { letterProblems } from "./letterProblems";
import { linkProblems } from "./linkProblems";
import { CheckCache, place, type Problem } from "./problem";
import { prefixProblems, processProblems } from "./processProblems";
import { circleProblems, handedProblems } from "./handedProblems";
import { procedureProblems } from "./procedureProblems";
import { routeProblems } from "./routeProblems";
import { recordCircles } from "./recordCircles";
import { recordReads } from "./recordReads";
import { wholeReads } from "./wholeReads";
import { sightProblems, type Sight } from "./sightProblems";
import { valueProblems } from "./valueProblems";
import { textProblems } from "./textProblems";

export interface CheckAgainst {
  kinds: Kinds;
  registers: Registers;
  /** Without it nothing is said about people, groups, duties and calendars. */
  office?: OfficeFacts;
  /** What numbers of other processes start with, and what those are called; without it nothing is said about that. */
  prefixes?: Readonly<Record<string, string>>;
  /** Procedures that are live, by key; without it nothing is said of what is handed to. */
  procedures?: Readonly<Record<string, LiveProcedure>>;
  /** Starts of other processes that are live, by mail. */
  mailTakers?: readonly MailTaker[];
  /** What whoever releases it may see of registers; without it nothing is said about that. */
  sight?: Sight;
  /** Kept between two checks of the same draft. */
  cache?: CheckCache;
}

/** What is live, with the draft as it will be: what hands to itself hands to that. */
function withItself(
  d: ProcessDefinition,
  kinds: Kinds,
  live: Readonly<Record<string, LiveProcedure>>,
): Readonly<Record<string, LiveProcedure>> {
  if (!isHandedTo(d, kinds)) return live;
  const before = Object.hasOwn(live, d.key) ? live[d.key] : undefined;
  const itself: LiveProcedure = {
    key: d.key,
    name: d.name,
    version: before?.version ?? "",
    versions: before?.versions ?? [],
    ...portsOf(d.fields),
    handsTo: handsOver(d, kinds).map((x) => x.to),
    ...(d.procedure ? {} : { from: letsBegin(d, kinds) ?? [] }),
  };
  return { ...live, [d.key]: itself };
}

/** Everything wrong with a draft, in reading order. */
export function problemsOf(definition: ProcessDefinition, against: CheckAgainst): Problem[] {
  const { kinds, registers, office, cache = new CheckCache() } = against;
  const places = placesOf(definition, kinds);
  const formulas = formulaPlaces(definition, { registers, kinds });
  const out: Problem[] = [];
  for (const m of idMistakes(definition)) {
    const code = m.why === "reserved" ? "bad-id" : `${m.what === "step" ? "step" : "id"}-twice`;
    const at = m.kind === "process" ? undefined : "id";
    out.push({ severity: "error", code, where: place(m.kind, m.row, at), message: idSentence(m) });
  }
  formProblems(definition, { registers, kinds }, formulas, cache, out);
  processProblems(definition, { kinds, registers }, office, out);
  if (definition.procedure) procedureProblems(definition, kinds, out);
  else prefixProblems(definition, against.prefixes, out);
  mailStartProblems(definition, kinds, against.mailTakers, out);
  if (isHandedTo(definition, kinds)) handedProblems(definition, kinds, out);
  const procedures = against.procedures && withItself(definition, kinds, against.procedures);
  if (procedures) circleProblems(definition, kinds, procedures, out);
  const scopes = new RouteScopes(definition, { registers, kinds });
  routeProblems(definition, places, { registers, kinds, scopes, procedures, office }, out);
  letterProblems(definition, places, kinds, out);
  documentProblems(definition, places, kinds, out);
  const flow = flowOf(definition, places, kinds);
  formulaProblems(definition, places, flow, { registers, kinds }, formulas, cache, out);
  valueProblems(definition, places, flow, { registers, kinds }, formulas, cache, out);
  linkProblems(definition, places, { registers, kinds }, formulas, cache, out);
  conditionProblems(definition, formulas, cache, out);
  textProblems(definition, places, formulas, cache, kinds, out);
  const mayPrecede = (a: string, b: string) => flow.mayPrecedeInRound(a, b);
  signingProblems({ d: definition, places, formulas, cache, kinds, mayPrecede }, out);
  askProblems(definition, places, kinds, office, out);
  recordCircles(definition, places, { registers, kinds }, out);
  const reads = recordReads(definition, places, { registers, kinds }, formulas, cache);
  wholeReads(reads, places, registers, kinds, out);
  if (against.sight) sightProblems(reads, registers, against.sight, out);
  return out;
}

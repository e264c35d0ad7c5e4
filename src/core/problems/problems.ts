import type { Kinds, LiveProcedure, OfficeFacts } from "../kinds";
import type { Registers } from "../form";
import {
  formulaPlaces,
  idMistakes,
  idSentence,
  placesOf,
  RouteScopes,
  type ProcessDefinition,
} from "../route";
import { askProblems } from "./askProblems";
import { conditionProblems } from "./conditionProblems";
import { formProblems } from "./formProblems";
import { formulaProblems } from "./formulaProblems";
import { linkProblems } from "./linkProblems";
import { CheckCache, place, type Problem } from "./problem";
import { prefixProblems, processProblems } from "./processProblems";
import { procedureProblems } from "./procedureProblems";
import { routeProblems } from "./routeProblems";
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
  /** Kept between two checks of the same draft. */
  cache?: CheckCache;
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
  processProblems(definition, kinds, office, out);
  if (definition.procedure) procedureProblems(definition, kinds, against.procedures, out);
  else prefixProblems(definition, against.prefixes, out);
  const scopes = new RouteScopes(definition, { registers, kinds });
  routeProblems(definition, places, { registers, kinds, scopes, procedures: against.procedures }, out);
  formulaProblems(definition, places, { registers, kinds }, formulas, cache, out);
  linkProblems(definition, places, { registers, kinds }, formulas, cache, out);
  conditionProblems(definition, formulas, cache, out);
  textProblems(definition, places, formulas, cache, kinds, out);
  askProblems(definition, places, kinds, office, out);
  return out;
}

import {
  evaluateForm,
  mergeEdits,
  notPassed,
  startingValues,
  type AccessOf,
  type FormData,
  type Party,
  type Passed,
} from "../form";
import { handedAccess, heldAccess } from "../route";
import type { Given, Refusal } from "./commands";
import { notYetAsked } from "./notYetAsked";
import { signaturesReused } from "./signaturesReused";
import { raisePassed } from "./raisePassed";
import { raiseSigned } from "./raiseSigned";
import { START, type CompiledRelease } from "./release";
import { NEW_REQUEST, type RequestState } from "./state";
import type { Turn } from "./turn";

export interface Beginning {
  requester: Party;
  number: string;
  data: FormData;
  /** When the request began, where this is a procedure it has come to; in epoch milliseconds. */
  began?: number;
  /** Whether others hand it its values. */
  handed?: true;
  given?: Given | undefined;
  passed?: Passed | undefined;
}

/** What is filled in before anybody has filled in anything: only what a start of the release may fill in. */
export const givenData = (
  { definition, filled }: Pick<CompiledRelease, "definition" | "filled">,
  given: Given | undefined,
): FormData => (given ? mergeEdits(definition.fields, {}, given.data, handedAccess(definition, filled)) : {});

/** What whoever asks may fill in of the form. */
export const startAccess = (release: Pick<CompiledRelease, "access">, given: Given | undefined): AccessOf =>
  heldAccess(release.access(START), given?.held ?? null);

/** Takes the form a request, or a procedure, begins with; says why it cannot. */
export function begin(
  turn: Turn,
  { requester, number, data: sent, began, handed, given, passed }: Beginning,
): Refusal | null {
  const { release, facts } = turn;
  const access = handed ? handedAccess(release.definition, release.filled) : startAccess(release, given);
  const merged = mergeEdits(release.definition.fields, givenData(release, given), sent, access);
  const who: Pick<RequestState, "requester" | "number" | "startedAt"> = {
    requester,
    number,
    startedAt: began ?? facts.at,
  };
  turn.state = { ...NEW_REQUEST, ...who };
  const extra = turn.extraNames();
  // Only what is handed over can be left out, and is signed by nobody: who fills in a form sees what is empty.
  const filledIn = !handed && began === undefined;
  const begun = filledIn
    ? { data: merged, problems: [] }
    : startingValues(release.form, merged, access, facts, extra);
  if (begun.problems.length > 0) {
    turn.state = NEW_REQUEST;
    return { code: "form", data: { problems: begun.problems } };
  }
  const result = evaluateForm(release.form, begun.data, access, facts, extra, {});
  turn.state = NEW_REQUEST;
  // A procedure is come to in the middle of a command, with nobody to be told: what it is handed is not asked about.
  const unasked = began === undefined ? notYetAsked(result, facts) : null;
  if (unasked) return unasked;
  const reused = filledIn ? signaturesReused(release, {}, result.data) : [];
  const problems = [...notPassed(result.problems, passed ?? {}), ...reused];
  if (problems.length > 0) return { code: "form", data: { problems } };
  turn.raise({
    type: "request started",
    requester,
    number,
    data: result.data,
    ...(began === undefined ? {} : { began }),
    ...(handed ? { handed } : {}),
  });
  raisePassed(turn, result.problems, passed);
  if (filledIn)
    raiseSigned(turn, {}, { access, form: release.definition.forms?.[START], shown: result.shown });
  return null;
}

import { evaluateForm, mergeEdits, startingValues, type FormData, type Party } from "../form";
import { handedAccess } from "../route";
import type { Refusal } from "./commands";
import { START } from "./release";
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
}

/** Takes the form a request, or a procedure, begins with; says why it cannot. */
export function begin(
  turn: Turn,
  { requester, number, data: sent, began, handed }: Beginning,
): Refusal | null {
  const { release, facts } = turn;
  const access = handed ? handedAccess(release.definition, release.filled) : release.access(START);
  const merged = mergeEdits(release.definition.fields, {}, sent, access);
  const who: Pick<RequestState, "requester" | "number" | "startedAt"> = {
    requester,
    number,
    startedAt: began ?? facts.at,
  };
  turn.state = { ...NEW_REQUEST, ...who };
  const extra = turn.extraNames();
  // Only what is handed over can be left out: who fills in a form sees what is empty.
  const begun =
    handed || began !== undefined
      ? startingValues(release.form, merged, access, facts, extra)
      : { data: merged };
  if ("problems" in begun) {
    turn.state = NEW_REQUEST;
    return { code: "form", data: { problems: begun.problems } };
  }
  const result = evaluateForm(release.form, begun.data, access, facts, extra);
  turn.state = NEW_REQUEST;
  if (result.problems.length > 0) return { code: "form", data: { problems: result.problems } };
  turn.raise({
    type: "request started",
    requester,
    number,
    data: result.data,
    ...(began === undefined ? {} : { began }),
    ...(handed ? { handed } : {}),
  });
  return null;
}

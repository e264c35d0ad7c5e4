import { evaluateForm, personParty } from "../form";
import type { Sample } from "../route";
import type { EngineFacts } from "./facts";
import type { CompiledRelease } from "./release";
import { NEW_REQUEST } from "./state";
import { Turn } from "./turn";
import { workAhead } from "./workAhead";
import { worksAtOnce } from "./worksAtOnce";

/**
 * A sample as a request whose form was just filled in, copies taken, with what steps come to that work at once: what
 * formulas of a draft are shown over.
 */
export function sampleTurn(release: CompiledRelease, sample: Sample, facts: EngineFacts): Turn {
  const { requester, data } = sample;
  const number = `${release.definition.numbering.prefix}-SAMPLE`;
  const state = { ...NEW_REQUEST, requester: personParty(requester), number, startedAt: facts.at, data };
  const turn = new Turn(release, state, facts, requester);
  if (release.copied.length > 0) {
    const filledIn = evaluateForm(release.form, data, () => "edit", facts, turn.extraNames(), {});
    const copied = release.copied.map((f) => [f.id, filledIn.data[f.id] ?? null]);
    turn.state = { ...state, data: { ...data, ...Object.fromEntries(copied) } };
  }
  const steps = [...release.places.values()].map((p) => p.step);
  workAhead(
    turn,
    steps.filter((s) => worksAtOnce(release.kinds, s)),
  );
  return turn;
}

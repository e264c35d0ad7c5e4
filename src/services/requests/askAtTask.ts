import { formOf, Turn } from "@/core/engine";
import { mergeEdits, type FormData, type FormAnswer, type FormQuestion } from "@/core/form";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { accessFor } from "../outside/visitor";
import { askForm } from "./askForm";
import { engineFacts, factsReader } from "./facts";
import { loadRequest } from "./loadRequest";
import { registersAtHand } from "./registersAtHand";
import { taskAt } from "./taskView";

/** What the form of a task asks while somebody fills it in. @param typed what of it they may, as they have it */
export const askAtTask = defineUseCase(
  ["see request"],
  async (c, number: string, taskId: string, typed: FormData, q: FormQuestion): Promise<FormAnswer> => {
    const loaded = await loadRequest(c, { number });
    const { db, d, row, now } = loaded;
    const { task, release, state } = taskAt(loaded, taskId);
    if (!task.candidates.some((x) => x.person === c.actor.id))
      throw new Failed({ code: "refused", data: { code: "not-yours", data: { task: taskId } } });
    const access = accessFor(c.actor, release, formOf(task));
    const data = mergeEdits(release.definition.fields, state.data, typed, access);
    const shapes = registersAtHand(d, release, loaded.procedures);
    const reader = factsReader(db, d, release.definition, { request: row.id, by: [c.actor.id] }, shapes);
    const facts = engineFacts(d, await reader.load([], data), now, c.actor.zone);
    return askForm(
      {
        d,
        release,
        process: loaded.release.definition.key,
        data,
        before: state.data,
        access,
        extra: new Turn(release, state, facts, null).extraNames(),
        reader,
        at: now,
        zone: c.actor.zone,
        seen: registersSeen(d, c.actor),
        outside: c.actor.kind === "visitor" ? state.requester : null,
      },
      q,
    );
  },
);

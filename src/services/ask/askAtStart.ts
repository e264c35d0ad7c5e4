import { givenData } from "@/core/engine";
import { mergeEdits, type FormData, type FormAnswer, type FormQuestion } from "@/core/form";
import { defineUseCase } from "../kernel/defineUseCase";
import { askForm } from "../requests/askForm";
import type { Press } from "../requests/pressed";
import { atStart } from "./atStart";

/** What the form of a process asks while somebody fills it in. @param typed all they have filled in so far */
export const askAtStart = defineUseCase(
  ["ask", "press"],
  async (
    c,
    processKey: string,
    press: Press | null,
    typed: FormData,
    q: FormQuestion,
  ): Promise<FormAnswer> => {
    const { d, release, given, access, turn, reader, now, seen } = await atStart(c, processKey, press);
    const data = mergeEdits(release.definition.fields, givenData(release, given), typed, access);
    return askForm(
      {
        d,
        release,
        process: processKey,
        data,
        before: {},
        access,
        extra: turn.extraNames(),
        reader,
        at: now,
        zone: c.actor.zone,
        seen,
      },
      q,
    );
  },
);

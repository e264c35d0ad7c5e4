import { sampleTurn } from "@/core/engine";
import { factsSeen, type FormData, type FormAnswer, type FormQuestion } from "@/core/form";
import { accessAt } from "@/core/route";
import { getPool } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { askForm } from "../requests/askForm";
import { engineFacts, factsReader, type FactsReader } from "../requests/facts";
import { draftSample, withSampleMail } from "./draftSample";

const NOTHING: FormAnswer = { offered: [], none: "Choose a sample above: it is asked for.", records: {} };

/**
 * What the form of a draft, as it is kept, asks over a sample, or over what is typed alone where there is none: of the
 * real registers, as far as whoever designs it sees them.
 * @param step where it is filled in
 * @param typed what is filled in beside the sheet
 */
export const askAtSample = defineUseCase(
  ["design"],
  async (
    c,
    key: string,
    sampleId: string,
    step: string,
    typed: FormData,
    q: FormQuestion,
  ): Promise<FormAnswer> => {
    const db = getPool();
    // Where there is no sample yet it is asked as by whoever designs it.
    const own = { id: "", name: "", requester: c.actor.id, data: {} };
    const tried = await draftSample(c, db, key, sampleId, own);
    if (!tried) return NOTHING;
    const { row, sample, d, seen, release, now } = tried;
    const read = factsReader(db, d, row.definition, { request: null, by: row.definition.owners });
    const reader: FactsReader = {
      load: async (also, ...datas) =>
        factsSeen(withSampleMail(sample, await read.load(also, ...datas)), d.registers, seen),
      forget: () => read.forget(),
    };
    const facts = engineFacts(d, await reader.load([], typed), now, c.actor.zone);
    const turn = sampleTurn(release, { ...sample, data: typed }, facts);
    return askForm(
      {
        d: { ...d, registers: seen },
        release,
        process: key,
        data: typed,
        access: accessAt(row.definition, step),
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

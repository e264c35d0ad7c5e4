import type { FileFacts } from "@/core/form";
import { processPaper } from "@/core/words";
import { getPool, processes } from "@/db";
import { KINDS } from "@/kinds";
import { tidyFileName } from "../files/files";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { mustDesign } from "../workshop/mustDesign";
import { LANGUAGE, printPaper } from "./printPaper";
import { whenIn } from "./whenIn";

/** Form and route of a draft as a PDF, for whoever designs it. @throws Failed where it is too long */
export const printedProcess = defineUseCase(
  ["design"],
  async (c, key: string): Promise<{ file: FileFacts; bytes: Buffer }> => {
    const db = getPool();
    await mustDesign(c, db, key);
    const draft = await processes.draftOf(db, key);
    if (!draft) throw new Failed({ code: "not-found", data: { what: "process", id: key } });
    const d = await loadDirectory(db);
    const now = await nowMs(db);
    const { definition } = draft;
    const by = c.actor.kind === "system" ? "" : `, printed by ${personName(d, c.actor.id)}`;
    const paper = processPaper(
      {
        definition,
        version: "As it is being designed",
        foot: `${definition.name}${by} ${whenIn(c.actor.zone)(now)}`,
        language: LANGUAGE,
        person: (id) => personName(d, id),
        register: (of) => d.registers[of]?.name ?? of,
      },
      KINDS,
    );
    const bytes = await printPaper(paper);
    const name = tidyFileName(`${definition.name.replace(/[\\/]/g, "-")}.pdf`);
    return { file: { id: key, name, size: bytes.length, type: "application/pdf", at: now }, bytes };
  },
);

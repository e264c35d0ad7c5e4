import type { DocumentTag, TemplateFile } from "@/core/document";
import { getPool, inTransaction, keptTemplates as kept, processes, templates } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keptForAll, mustKeepNext, type KeptForAll } from "../workshop/keptForAll";
import { mustDesign } from "../workshop/mustDesign";
import { mustHave } from "./templates";

/** Which template kept for all a process's own is, as which version. */
export interface TakenFrom {
  template: string;
  version: number;
}

/**
 * Keeps a template of a draft for all processes: as the next version of the one it was taken from, or as a new one. The next
 * version of what another process keeps is for the office.
 * @returns what the process's template is of from now on
 */
export const keepTemplate = defineUseCase(
  ["design", "keep people"],
  async (c, process: string, document: string): Promise<TakenFrom> =>
    inTransaction(async (db) => {
      await mustDesign(c, db, process);
      const draft = await processes.draftOf(db, process);
      const template = draft?.definition.documents?.find((x) => x.id === document);
      if (!template) throw new Failed({ code: "not-found", data: { what: "template", id: document } });
      await mustHave(process, template);
      const of = template.from ? await kept.keptTemplate(db, template.from.template) : null;
      mustKeepNext(c, process, of);
      const id = of?.id ?? crypto.randomUUID();
      const { name, file, tags } = template;
      const version = await kept.putKeptTemplate(db, {
        id,
        name,
        file,
        tags,
        process_key: of ? of.process_key : process,
        by_person: c.actor.kind === "system" ? null : c.actor.id,
        at: await nowMs(db),
      });
      await noteEntry(c.actor, { what: "template kept", data: { template: name, process } }, db);
      return { template: id, version };
    }),
);

/** A template kept for all as it is now, brought into a process; the draft names it once whoever took it puts it there. */
export const takeTemplate = defineUseCase(
  ["design"],
  async (
    c,
    process: string,
    document: string,
    id: string,
  ): Promise<{ name: string; file: TemplateFile; tags: DocumentTag[]; from: TakenFrom }> =>
    inTransaction(async (db) => {
      await mustDesign(c, db, process);
      const k = await kept.keptTemplate(db, id);
      const bytes = k && (await templates.templateBytes(db, k.file.sha256));
      if (!k || !bytes) throw new Failed({ code: "not-found", data: { what: "template", id } });
      const { name, file, tags, version } = k;
      const by_person = c.actor.kind === "system" ? null : c.actor.id;
      const { sha256 } = file;
      const upload = { sha256, name: file.name, tags, by_person, at: await nowMs(db) };
      await templates.keepTemplate(db, { process, document, bytes, ...upload });
      await noteEntry(c.actor, { what: "template brought in", data: { template: file.name, process } }, db);
      return { name, file, tags, from: { template: id, version } };
    }),
);

/** Templates kept for all, and which processes have taken them. */
export const keptTemplateList = defineUseCase(["keep people"], async (c): Promise<KeptForAll[]> => {
  c.must(
    { action: "keep people" },
    { code: "not-allowed", data: { action: "see to templates that all use" } },
  );
  const db = getPool();
  return keptForAll(db, await kept.keptTemplates(db), await kept.keptTemplatesTaken(db));
});

/** Keeps a template for all no more; processes that have taken it keep their own. */
export const removeKeptTemplate = defineUseCase(["keep people"], async (c, id: string): Promise<null> =>
  inTransaction(async (db) => {
    c.must(
      { action: "keep people" },
      { code: "not-allowed", data: { action: "take templates away that all use" } },
    );
    const k = await kept.keptTemplate(db, id);
    if (!k || !(await kept.removeKeptTemplate(db, id)))
      throw new Failed({ code: "not-found", data: { what: "template", id } });
    await noteEntry(c.actor, { what: "template taken away", data: { template: k.name } }, db);
    return null;
  }),
);

import { documentWritten, sampleAt, sampleTurn } from "@/core/engine";
import { factsSeen, type FileFacts } from "@/core/form";
import { documentsUsed } from "@/core/route";
import { stuckSentence } from "@/core/words";
import { files, getPool } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { engineFacts, factsReader } from "../requests/facts";
import { draftSample, withSampleMail } from "../workshop/draftSample";
import { refused } from "./docxWork";
import { makeDocument } from "./makeDocument";
import { DOCX, handed, mustHave } from "./templates";

/**
 * A template of the draft as a document for a sample, as it is kept: nothing of it is kept anew. What cannot be worked out
 * is left out, and told beside it.
 * @throws Failed where it cannot be drawn up, with why
 */
export const previewDocument = defineUseCase(
  ["design"],
  async (
    c,
    key: string,
    document: string,
    sampleId: string,
    as: "docx" | "pdf",
  ): Promise<{ file: FileFacts; bytes: Buffer }> => {
    const db = getPool();
    const none = { id: "", name: "", requester: c.actor.kind === "system" ? "" : c.actor.id, data: {} };
    const tried = await draftSample(c, db, key, sampleId, none);
    if (!tried) throw new Failed({ code: "not-found", data: { what: "sample", id: sampleId } });
    const { row, sample, d, seen, release, now } = tried;
    const template = row.definition.documents?.find((x) => x.id === document);
    if (!template) throw new Failed({ code: "not-found", data: { what: "template", id: document } });
    const bytes = await mustHave(key, template);
    const owners = row.definition.owners;
    const reader = factsReader(db, d, row.definition, { request: null, by: owners });
    const data = factsSeen(withSampleMail(sample, await reader.load([], sample.data)), d.registers, seen);
    const turn = sampleTurn(release, sample, engineFacts(d, data, now, c.actor.zone));
    const [maker] = documentsUsed(row.definition, KINDS).get(document) ?? [];
    const at = maker === undefined ? { step: "", scope: null } : sampleAt(turn, maker);
    if (!at)
      throw refused("For this sample the step that draws it up is not come to: its rounds are over nothing.");
    const written = documentWritten(turn, at, document);
    if ("go" in written) throw refused(stuckSentence(written.reason, KINDS));
    const known = new Set(Object.keys(data.files ?? {}));
    const fileBytes = async (id: string) => (known.has(id) ? files.bytesOf(db, id) : null);
    const made = await makeDocument({ bytes, tags: template.tags, filled: written.filled, as, fileBytes });
    return handed(
      `${template.name}.${as}`,
      as === "pdf" ? "application/pdf" : DOCX,
      made.pdf ?? made.docx,
      now,
    );
  },
);

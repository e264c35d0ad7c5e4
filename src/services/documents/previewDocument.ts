import { firstsOf, type DocumentTemplate, type Filled, type FirstOf } from "@/core/document";
import {
  documentWritten,
  sampleAt,
  sampleTurn,
  type CompiledRelease,
  type Effect,
  type EngineFacts,
} from "@/core/engine";
import type { FileFacts } from "@/core/form";
import { stepKind } from "@/core/kinds";
import { documentsUsed, type Sample } from "@/core/route";
import { stuckSentence } from "@/core/words";
import { files, getPool, searching } from "@/db";
import { KINDS } from "@/kinds";
import { executorOf } from "@/steps/effects";
import { pictureBytes } from "../files/contents/readContent";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { draftSample } from "../workshop/draftSample";
import { walkSample } from "../workshop/walkSample";
import { refused } from "./docxWork";
import { makeDocument } from "./makeDocument";
import { DOCX, handed, mustHave } from "./templates";

/** A document as a sample would have it, and by tag what it came to. */
export interface PreviewedDocument {
  file: FileFacts;
  bytes: Buffer;
  first: (FirstOf | null)[];
}

/**
 * A template of the draft as a document for a sample, as it is kept: with what steps before have come to where the sample
 * comes to the step that draws it up, else as the sample begins. Nothing of it is kept anew. What cannot be worked out is
 * left out, and told beside it.
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
  ): Promise<PreviewedDocument> => {
    const db = getPool();
    const none = { id: "", name: "", requester: c.actor.kind === "system" ? "" : c.actor.id, data: {} };
    const tried = await draftSample(c, db, key, sampleId, none);
    if (!tried) throw new Failed({ code: "not-found", data: { what: "sample", id: sampleId } });
    const { row, sample, release, now } = tried;
    const template = row.definition.documents?.find((x) => x.id === document);
    if (!template) throw new Failed({ code: "not-found", data: { what: "template", id: document } });
    const bytes = await mustHave(key, template);
    const enough = (e: Effect): boolean => {
      const step = release.places.get(e.step)?.step;
      return step !== undefined && stepKind(KINDS, step).documents?.(step).includes(document) === true;
    };
    const { effect, facts } = await searching((on) => walkSample(c, on, tried, { enough }));
    const { filled, whys } = (effect && asDrawnUp(effect)) ?? asBegun(release, sample, facts, template);
    const fileBytes = async (id: string) => {
      const file = facts.file(id) ? await files.fileById(db, id) : null;
      return file && pictureBytes(file);
    };
    const made = await makeDocument({ bytes, tags: template.tags, filled, as, fileBytes });
    const named = (id: string) => String(facts.file(id)?.get("name") ?? "");
    const first = firstsOf(template.tags, filled, named).map((f, at): FirstOf | null =>
      whys.has(at) ? { why: whys.get(at)! } : f,
    );
    const type = as === "pdf" ? "application/pdf" : DOCX;
    return { ...handed(`${template.name}.${as}`, type, made.pdf ?? made.docx, now), first };
  },
);

const NONE: ReadonlyMap<number, string> = new Map();

/** What stands in it as the step asks for it; null for a step that asks for something else. */
function asDrawnUp(effect: Effect): ReturnType<typeof asBegun> | null {
  const executor = executorOf(effect);
  const asked = executor.where === "document" ? executor.asks(effect) : null;
  return asked && "filled" in asked ? { filled: asked.filled, whys: NONE } : null;
}

/** What stands in it as the sample begins. */
function asBegun(
  release: CompiledRelease,
  sample: Sample,
  facts: EngineFacts,
  template: DocumentTemplate,
): { filled: readonly Filled[]; whys: ReadonlyMap<number, string> } {
  const turn = sampleTurn(release, sample, facts);
  const [maker] = documentsUsed(release.definition, KINDS).get(template.id) ?? [];
  const at = maker === undefined ? { step: "", scope: null } : sampleAt(turn, maker);
  if (!at)
    throw refused("for this sample the step that draws it up is not come to: its rounds are over nothing.");
  const written = documentWritten(turn, at, template.id);
  if ("go" in written) throw refused(stuckSentence(written.reason, KINDS));
  return written;
}

import { createHash } from "node:crypto";
import {
  firstTemplate,
  MOST_OF_TEMPLATE,
  type DocumentTag,
  type DocumentTemplate,
  type TemplateFile,
} from "@/core/document";
import { megabytes, type FileFacts } from "@/core/form";
import { firstDocx } from "@/outside/docx";
import { getPool, inTransaction, processes, templates } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { tidyFileName } from "../files/files";
import { mustDesign } from "../workshop/mustDesign";
import { docxWork, refused } from "./docxWork";

/** A file that was brought in, ready to be put into the draft. */
export interface BroughtTemplate {
  file: TemplateFile;
  tags: DocumentTag[];
  /** Sentences about what somebody might not expect. */
  notes: string[];
}

/** A version of a template: a file that was brought in. */
export interface TemplateVersion extends Omit<BroughtTemplate, "notes"> {
  id: string;
  by: string | null;
  /** Epoch milliseconds. */
  at: number;
}

/** Versions that are shown. */
const MOST_VERSIONS = 50;
export const DOCX = "application/vnd.openxmlformats-officedocument.wordprocessingml.document";

/**
 * Takes a DOCX in as the next version of a template of a process, and reads its tags. The draft names it once whoever
 * brought it in puts it there.
 * @param document id of the template, which may be new
 * @throws Failed where it can be no template, with why
 */
export const bringTemplate = defineUseCase(
  ["design"],
  async (c, process: string, document: string, name: string, bytes: Buffer): Promise<BroughtTemplate> => {
    await mustDesign(c, getPool(), process);
    const tidy = tidyFileName(name);
    if (!tidy) throw refused("The file needs a name, for example Agreement.docx.");
    if (bytes.length > MOST_OF_TEMPLATE.bytes)
      throw refused(
        `A template may have up to ${MOST_OF_TEMPLATE.bytes / 1_000_000} MB; “${tidy}” has ${megabytes(bytes.length)} MB. Make its pictures smaller.`,
      );
    const done = await docxWork({ read: bytes });
    if (!("read" in done)) throw new Error("a template was filled instead of read");
    const { tags, notes } = done.read;
    return { ...(await keep(c, process, document, { name: tidy, bytes, tags })), notes };
  },
);

async function keep(
  c: Call,
  process: string,
  document: string,
  { name, bytes, tags }: { name: string; bytes: Buffer; tags: DocumentTag[] },
): Promise<Omit<BroughtTemplate, "notes">> {
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  await inTransaction(async (db) => {
    const by_person = c.actor.kind === "system" ? null : c.actor.id;
    await templates.keepTemplate(db, {
      process,
      document,
      sha256,
      bytes,
      name,
      tags,
      by_person,
      at: await nowMs(db),
    });
    await noteEntry(c.actor, { what: "template brought in", data: { template: name, process } }, db);
  });
  return { file: { sha256, name, size: bytes.length }, tags };
}

/** A first template made of the form of a process, brought in as if somebody had written it. */
export const makeFirstTemplate = defineUseCase(
  ["design"],
  async (c, process: string, document: string): Promise<BroughtTemplate> => {
    await mustDesign(c, getPool(), process);
    const row = await processes.draftOf(getPool(), process);
    if (!row) throw new Failed({ code: "not-found", data: { what: "process", id: process } });
    const { name, fields } = row.definition;
    const bytes = await firstDocx(firstTemplate(name, fields, (f) => KINDS.fields[f.kind].signs === true));
    const done = await docxWork({ read: bytes });
    if (!("read" in done)) throw new Error("a template was filled instead of read");
    const made = await keep(c, process, document, {
      name: tidyFileName(`${name.replace(/[\\/]/g, "-")}.docx`),
      bytes,
      tags: done.read.tags,
    });
    return { ...made, notes: done.read.notes };
  },
);

/** The files that were brought in as a template, the newest first. */
export const templateVersions = defineUseCase(
  ["design"],
  async (c, process: string, document: string): Promise<TemplateVersion[]> => {
    const db = getPool();
    await mustDesign(c, db, process);
    const rows = await templates.templateUploads(db, process, document, MOST_VERSIONS);
    const d = await loadDirectory(db);
    return rows.map(({ id, sha256, name, size, tags, by_person, at }) => ({
      id,
      file: { sha256, name, size },
      tags,
      by: by_person === null ? null : personName(d, by_person),
      at,
    }));
  },
);

/**
 * A template of the draft as a file, its tags as they say by now: fields may be called otherwise than when it was brought
 * in.
 */
export const templateAsNow = defineUseCase(
  ["design"],
  async (c, process: string, document: string): Promise<{ file: FileFacts; bytes: Buffer }> => {
    const db = getPool();
    await mustDesign(c, db, process);
    const draft = await processes.draftOf(db, process);
    const template = draft?.definition.documents?.find((x) => x.id === document);
    if (!template) throw new Failed({ code: "not-found", data: { what: "template", id: document } });
    const bytes = await mustHave(process, template);
    const done = await docxWork({ write: bytes, said: template.tags });
    if (!("bytes" in done)) throw new Error("a template was read instead of written");
    return handed(template.file.name, DOCX, Buffer.from(done.bytes), await nowMs(db));
  },
);

/** A file that is made when it is asked for. */
export const handed = (name: string, type: string, bytes: Buffer, at: number) => ({
  file: { id: "", name, size: bytes.length, type, at },
  bytes,
});

/** What is in a template's file. @throws Failed where it was never brought into this process */
export async function mustHave(process: string, { name, file }: DocumentTemplate): Promise<Buffer> {
  const bytes = await templates.templateBytesOf(getPool(), process, file.sha256);
  if (!bytes)
    throw refused(
      `The file of “${name}” is not here: it came with a definition from elsewhere. Bring the DOCX in again.`,
    );
  return bytes;
}

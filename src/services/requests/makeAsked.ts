import { withSignature } from "@/core/document";
import type { WorkingCalendar } from "@/core/calendar";
import { DEFAULT_CALENDAR } from "@/core/engine";
import { sheetsOf } from "@/core/paper";
import { documentSources, files, getPool, templates, type DocumentSource } from "@/db";
import type { AskedDocument, AskedLabels, AskedSigned } from "@/steps/executor";
import { pictureBytes } from "../files/contents/readContent";
import type { Directory } from "../kernel/directory";
import { docxWorkRefused, makeDocument, signatureLines, type Made } from "../documents";
import { LANGUAGE, printLabels } from "../printing/printPaper";

/** A document that was made. */
export interface MadeAsked {
  /** What its files are called, without their ending. */
  called: string;
  /** Its files, the PDF first. */
  files: readonly { kind: "pdf" | "docx"; bytes: Buffer }[];
  /** Of its PDF. */
  pages: number | null;
  /** What it was made of; null of what is never signed. */
  of: DocumentSource | null;
  /** It is another with a signature in its place. */
  signed: boolean;
}

/** Makes what a step asks for: a document from a template, labels, or the signed one of a document. @throws Failed */
export async function makeAsked(
  d: Directory,
  request: string,
  asked: AskedDocument | AskedLabels | AskedSigned,
  calendar: string | undefined,
): Promise<MadeAsked> {
  if ("signs" in asked) return makeSigned(d, request, asked, d.calendars.get(calendar ?? DEFAULT_CALENDAR));
  return "labels" in asked ? makeLabels(asked) : makeDrawnUp(request, asked);
}

async function makeLabels({ called, labels: { labels, ...parted } }: AskedLabels): Promise<MadeAsked> {
  const grid = { ...parted, skip: 0 };
  const bytes = await printLabels({ ...grid, title: called, language: LANGUAGE, labels });
  const pages = sheetsOf(labels.length, grid);
  return { called, files: [{ kind: "pdf", bytes }], pages, of: null, signed: false };
}

async function makeDrawnUp(request: string, asked: AskedDocument): Promise<MadeAsked> {
  const { template, called, as, filled } = asked;
  const made = await make(request, { template, filled, signed: [] }, as);
  const of = { template, called, filled, pages: made.pages, signed: [] };
  return { called, files: filesOf(made, as), pages: made.pages, of, signed: false };
}

/**
 * What was drawn up is drawn up again from the same values, whatever these are by now, with the signature in its place: whoever
 * signed has signed what they saw.
 */
async function makeSigned(
  d: Directory,
  request: string,
  { signs, field }: AskedSigned,
  calendar: WorkingCalendar | undefined,
): Promise<MadeAsked> {
  const db = getPool();
  const [source, shown, picture] = await Promise.all([
    documentSources.sourceOf(db, request, signs.document),
    files.fileById(db, signs.document),
    files.fileById(db, signs.picture),
  ]);
  if (!source || !shown)
    throw docxWorkRefused(
      "the document that was shown is not here any more. Have it drawn up and signed anew.",
    );
  if (picture?.request_id !== request)
    throw docxWorkRefused("the picture of the signature is not here any more. Have it signed anew.");
  const lines = signatureLines({
    by: d.people.get(signs.by),
    standsFor: signs.for === undefined ? undefined : d.people.get(signs.for)?.name,
    at: signs.at,
    zone: calendar?.zone ?? "UTC",
    picture: picture.name,
    shown: { name: shown.name, pages: source.pages, sha256: shown.sha256 },
  });
  const filled = withSignature(source.filled, field, signs.picture);
  const signed = [...source.signed, { picture: signs.picture, lines }];
  const made = await make(request, { template: source.template, filled, signed }, "pdf");
  const { called } = source;
  const of = { ...source, filled, signed, pages: made.pages };
  return { called, files: filesOf(made, "pdf"), pages: made.pages, of, signed: true };
}

const filesOf = ({ docx, pdf }: Made, as: AskedDocument["as"]): MadeAsked["files"] => [
  ...(pdf ? [{ kind: "pdf" as const, bytes: pdf }] : []),
  ...(as === "pdf" ? [] : [{ kind: "docx" as const, bytes: docx }]),
];

async function make(
  request: string,
  { template, filled, signed }: Pick<DocumentSource, "template" | "filled" | "signed">,
  as: AskedDocument["as"],
): Promise<Made> {
  const db = getPool();
  const bytes = await templates.templateBytes(db, template.sha256);
  if (!bytes)
    throw docxWorkRefused(
      `the file of the template “${template.name}” is not here. Bring it in again, release, and retry.`,
    );
  const own = async (id: string) => {
    const file = await files.fileById(db, id);
    return file?.request_id === request ? pictureBytes(file) : null;
  };
  const closing = signed.length === 0 ? {} : { closing: { title: "Signed", entries: signed } };
  return makeDocument({ bytes, tags: template.tags, filled, as, ...closing, fileBytes: own });
}

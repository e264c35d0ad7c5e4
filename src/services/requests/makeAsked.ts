import { withSignature } from "@/core/document";
import type { WorkingCalendar } from "@/core/calendar";
import { DEFAULT_CALENDAR } from "@/core/engine";
import { documentSources, files, getPool, templates, type DocumentSource } from "@/db";
import type { AskedDocument, AskedSigned } from "@/steps/executor";
import type { Directory } from "../kernel/directory";
import { docxWorkRefused, makeDocument, signatureLines, type Made } from "../documents";

/** A document that was made, and what of. */
export interface MadeAsked {
  made: Made;
  /** Which of its files are kept. */
  as: AskedDocument["as"];
  of: DocumentSource;
  /** It is another with a signature in its place. */
  signed: boolean;
}

/** Makes what a step asks for: a document from a template, or the signed one of a document. @throws Failed */
export async function makeAsked(
  d: Directory,
  request: string,
  asked: AskedDocument | AskedSigned,
  calendar: string | undefined,
): Promise<MadeAsked> {
  return "signs" in asked
    ? makeSigned(d, request, asked, d.calendars.get(calendar ?? DEFAULT_CALENDAR))
    : makeDrawnUp(request, asked);
}

async function makeDrawnUp(request: string, asked: AskedDocument): Promise<MadeAsked> {
  const { template, called, as, filled } = asked;
  const made = await make(request, { template, filled, signed: [] }, as);
  const of = { template, called, filled, pages: made.pages, signed: [] };
  return { made, as, of, signed: false };
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
  return { made, as: "pdf", of: { ...source, filled, signed, pages: made.pages }, signed: true };
}

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
  const own = async (id: string) =>
    (await files.fileById(db, id))?.request_id === request ? files.bytesOf(db, id) : null;
  const closing = signed.length === 0 ? {} : { closing: { title: "Signed", entries: signed } };
  return makeDocument({ bytes, tags: template.tags, filled, as, ...closing, fileBytes: own });
}

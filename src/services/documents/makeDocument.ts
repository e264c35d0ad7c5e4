import type { Filled, TreeTag } from "@/core/document";
import { picturesIn } from "@/core/document";
import type { ClosingPage, Picture } from "@/outside/docx";
import { MOST_PAGES, NoPdf, pdfOf } from "@/outside/office";
import { shrunkPicture } from "../files/shrunkPicture";
import { docxWork, refused } from "./docxWork";

/** The longer side of a picture in a document, in pixels: a page's width at 300 dots to the inch. */
const SIDE = 2000;
/** Pictures of one document, and MB of all of them. */
const MOST_PICTURES = 500;
const MOST_PICTURE_MB = 100;

export interface Making {
  /** What is in the template. */
  bytes: Buffer;
  tags: readonly TreeTag[];
  filled: readonly Filled[];
  as: "docx" | "pdf" | "both";
  /** Who signed it; absent of one that nobody has. */
  closing?: ClosingPage;
  /** What is in a file; null where it is not to be had. */
  fileBytes(id: string): Promise<Buffer | null>;
}
export interface Made {
  docx: Buffer;
  /** Where it was asked for. */
  pdf: Buffer | null;
  /** Of the PDF. */
  pages: number | null;
}

/** A document with values in the places of its tags. @throws Failed with what is wrong, as a sentence */
export async function makeDocument({ bytes, tags, filled, as, closing, fileBytes }: Making): Promise<Made> {
  const signed = closing?.entries.flatMap((e) => e.picture ?? []) ?? [];
  const pictures = await picturesOf([...picturesIn(filled), ...signed], fileBytes);
  // Without ink it would look like a document that nobody has signed.
  if (signed.some((id) => !pictures.has(id)))
    throw refused("the signature is no picture that can be shown. Have it signed anew.");
  const done = await docxWork({ fill: { bytes, tags, filled, pictures, ...(closing ? { closing } : {}) } });
  if (!("bytes" in done)) throw new Error("a document was read instead of filled");
  const docx = Buffer.from(done.bytes);
  if (as === "docx") return { docx, pdf: null, pages: null };
  try {
    return { docx, ...(await pdfOf(docx)) };
  } catch (e) {
    if (e instanceof NoPdf) throw refused(pdfSentence(e));
    throw e;
  }
}

function pdfSentence({ why, pages }: NoPdf): string {
  switch (why) {
    case "missing":
      return "no PDF can be made on this server: the office program is not installed, or cannot be kept from the network. Whoever runs it installs libreoffice-writer-nogui and python3-uno (apt-get install), and it is retried. As DOCX it can be drawn up without.";
    case "long":
      return `as a PDF it would have ${pages} pages; at most ${MOST_PAGES} are made. Draw it up for fewer things.`;
    case "late":
      return "making the PDF took more than a minute. Draw it up for fewer things, or retry.";
    case "unreadable":
    case "failed":
      return "the office program could not make a PDF of it. Open the DOCX in a word processor, mend what it says there, and retry.";
  }
}

async function picturesOf(
  all: readonly string[],
  fileBytes: Making["fileBytes"],
): Promise<ReadonlyMap<string, Picture>> {
  const ids = [...new Set(all)];
  if (ids.length > MOST_PICTURES)
    throw refused(`it would have ${ids.length} pictures; at most ${MOST_PICTURES} are put into a document.`);
  const out = new Map<string, Picture>();
  let left = MOST_PICTURE_MB * 1_000_000;
  for (const id of ids) {
    const own = await fileBytes(id);
    const made = own && (await shrunkPicture(own, { side: SIDE, as: "png", seconds: 10 }));
    if (made === "not now") throw refused("one of its pictures is too large to be put into a document.");
    // What is no picture leaves its place empty: a problem of the template says so before.
    if (!made || typeof made === "string") continue;
    left -= made.data.length;
    if (left < 0) throw refused(`its pictures have more than ${MOST_PICTURE_MB} MB together.`);
    out.set(id, { bytes: made.data, width: made.info.width, height: made.info.height });
  }
  return out;
}

import JSZip from "jszip";
import { fromBuffer, type Entry, type ZipFile } from "yauzl";
import { belowRoot, NotXml, parseXml, remove, within, xmlText } from "./xml";

/** What a file may unpack to, in bytes, and into how many parts. */
const MOST_BYTES = 60_000_000;
const MOST_OF_A_PART = 20_000_000;
const MOST_PARTS = 2000;

/** A file of the word processor, unpacked: its parts by name. */
export type Parts = Map<string, Buffer>;
/** @param why as a sentence of what is wrong with the file */
export class NotDocx extends Error {
  constructor(readonly why: string) {
    super(why);
  }
}

/**
 * Unpacks a DOCX (ECMA-376, part 2), refusing what no template needs and could do harm: what unpacks to too much, macros,
 * embedded programs, entities, and whatever would be fetched from elsewhere when the file is opened. A link that somebody
 * presses is none of that; where the word processor's own template lies is left out.
 * @throws NotDocx
 */
export async function openDocx(bytes: Buffer): Promise<Parts> {
  const parts = await unpacked(bytes);
  if (!parts.has("[Content_Types].xml") || !parts.has("_rels/.rels"))
    throw new NotDocx("It is no DOCX of a word processor. Save it as DOCX there, and upload that.");
  for (const [name, content] of parts) {
    if (/vbaProject|vbaData|\.bin$/i.test(name) && !/printerSettings/i.test(name)) throw new NotDocx(MACROS);
    if (/(^|\/)(embeddings|activeX|oleObjects?)\//i.test(name))
      throw new NotDocx("It has another program's document embedded in it. Put a picture in its place.");
    if (!/\.(xml|rels)$/i.test(name)) continue;
    // In another encoding than UTF-8 what is looked for here would not be seen.
    if (content.includes(0) || /<!(DOCTYPE|ENTITY)/i.test(content.toString("latin1")))
      throw new NotDocx("It is written as no word processor writes it. Save it there anew, as DOCX.");
  }
  if (/macroEnabled/i.test(textOf(parts, "[Content_Types].xml"))) throw new NotDocx(MACROS);
  for (const name of [...parts.keys()]) if (/\.rels$/i.test(name)) withoutFetched(name, parts);
  return parts;
}
const MACROS = "It has macros. Save it in the word processor as DOCX without them.";

export const textOf = (parts: Parts, name: string): string => parts.get(name)?.toString("utf8") ?? "";

/** What a relation may not be, by the end of its type: a document that is read in when it is opened. */
const READ_IN = /^(aFChunk|subDocument|oleObject|frame)$/i;

/** Takes from the relations of a part what is fetched by itself; refuses what cannot be left out. */
function withoutFetched(name: string, parts: Parts): void {
  // Parsed and not searched: a text has many ways to say the same.
  const xml = readXml(parts, name);
  let left = false;
  for (const r of belowRoot(xml, "Relationship")) {
    const type = (r.getAttribute("Type") ?? "").split("/").at(-1) ?? "";
    if (READ_IN.test(type))
      throw new NotDocx(
        "It has another document in it that is read in when it is opened. Copy its text instead.",
      );
    if ((r.getAttribute("TargetMode") ?? "").toLowerCase() !== "external" || /^hyperlink$/i.test(type))
      continue;
    if (!/^attachedTemplate$/i.test(type))
      throw new NotDocx(
        `It would fetch something from elsewhere whenever it is opened (${(r.getAttribute("Target") ?? "").slice(0, 100)}). Put the picture or text itself in its place.`,
      );
    remove(r);
    left = true;
    const of = name.replace(/_rels\/([^/]+)\.rels$/i, "$1");
    if (!parts.has(of)) continue;
    const settings = readXml(parts, of);
    for (const e of within(settings.documentElement, "attachedTemplate")) remove(e);
    parts.set(of, Buffer.from(xmlText(settings)));
  }
  if (left) parts.set(name, Buffer.from(xmlText(xml)));
}

/** A part as XML. @throws NotDocx where it is none */
export function readXml(parts: Parts, name: string): Document {
  try {
    return parseXml(textOf(parts, name));
  } catch (e) {
    if (!(e instanceof NotXml)) throw e;
    throw new NotDocx("It is damaged: what is in it cannot be read. Save it anew in the word processor.");
  }
}

const open = (bytes: Buffer): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    fromBuffer(bytes, { lazyEntries: true, validateEntrySizes: true }, (e, zip) =>
      e ? reject(e) : resolve(zip),
    ),
  );

async function unpacked(bytes: Buffer): Promise<Parts> {
  const parts: Parts = new Map();
  try {
    const zip = await open(bytes);
    if (zip.entryCount > MOST_PARTS) throw tooMuch();
    let all = 0;
    for await (const entry of entriesOf(zip)) {
      // What it says of itself is held while it is unpacked (`validateEntrySizes`).
      all += entry.uncompressedSize;
      if (all > MOST_BYTES || entry.uncompressedSize > MOST_OF_A_PART) throw tooMuch();
      if (entry.isEncrypted()) throw new NotDocx("It is locked with a password. Save it without one.");
      if (!entry.fileName.endsWith("/")) parts.set(entry.fileName, await contentOf(zip, entry));
    }
  } catch (e) {
    if (e instanceof NotDocx) throw e;
    // What the unpacker says is about zip files, which nobody here has heard of.
    throw new NotDocx(
      bytes.subarray(0, 4).toString("latin1") === "\u00d0\u00cf\u0011\u00e0"
        ? "It is a file of an old word processor (DOC), or locked with a password. Save it as DOCX."
        : "It is no DOCX of a word processor, or is damaged. Save it there as DOCX, and upload that.",
    );
  }
  return parts;
}
const tooMuch = () =>
  new NotDocx(
    `It unpacks to too much: at most ${MOST_BYTES / 1_000_000} MB in all, ${MOST_OF_A_PART / 1_000_000} MB in one part. Make its pictures smaller.`,
  );

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (let at = 0; at < zip.entryCount; at++)
    yield await new Promise<Entry>((resolve, reject) => {
      const ended = (e?: Error) => reject(e ?? new Error("it ends before its last entry"));
      zip.once("error", ended).once("end", ended);
      zip.once("entry", (entry: Entry) => {
        zip.off("error", ended).off("end", ended);
        resolve(entry);
      });
      zip.readEntry();
    });
}

const contentOf = (zip: ZipFile, entry: Entry): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (e, stream) => {
      if (e) return reject(e);
      const chunks: Buffer[] = [];
      stream.on("data", (c: Buffer) => chunks.push(c));
      stream.on("end", () => resolve(Buffer.concat(chunks)));
      stream.on("error", reject);
    }),
  );

/** The parts packed again. */
export async function packDocx(parts: Parts): Promise<Buffer> {
  const zip = new JSZip();
  // One moment for all, so that equal parts give equal bytes.
  const date = new Date(Date.UTC(2000, 0, 1));
  for (const [name, content] of parts) zip.file(name, content, { date });
  return zip.generateAsync({ type: "nodebuffer", compression: "DEFLATE" });
}

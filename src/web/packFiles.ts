import { Readable } from "node:stream";
import { ZipFile } from "yazl";
import type { PackedFile } from "@/services";

/**
 * Files as one ZIP (APPNOTE 6.3.10), streamed: each is read when its turn has come, so that a part of one of them is in
 * memory and no more, and none is read for a caller who has left. Where one cannot be read the stream breaks off, so that nobody takes a
 * part for all.
 * @param read what is in a file; null where it is not there any more
 */
export function packFiles(
  all: readonly PackedFile[],
  read: (id: string) => Promise<AsyncIterable<Buffer> | null>,
): ReadableStream<Uint8Array> {
  const zip = new ZipFile();
  const out = zip.outputStream as Readable;
  zip.on("error", (e: Error) => out.destroy(e));
  for (const { id, path, at } of all)
    zip.addReadStreamLazy(path, { mtime: new Date(at), compress: !PRESSED.test(path) }, (give) => {
      read(id).then(
        (parts) =>
          parts
            ? give(null, Readable.from(parts))
            : give(new Error(`${path} cannot be read any more`), null as never),
        (e: unknown) => give(e, null as never),
      );
    });
  zip.end();
  return Readable.toWeb(out) as ReadableStream<Uint8Array>;
}

/** What is packed already takes time and gets no smaller. */
const PRESSED = /\.(png|jpe?g|gif|webp|avif|zip|docx|xlsx|pptx|odt|ods|mp[34]|7z|gz)$/i;

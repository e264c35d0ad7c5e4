import "server-only";
import type { FileFacts } from "@/core/form";
import { Readable } from "node:stream";
import { failureStatus, sentenceOf, type OpenedFile, type Outcome } from "@/services";
import { fileHeaders } from "./fileAnswers";

/** What a page is told of a file or a picture it has sent. */
export const added = async (what: Outcome<object>): Promise<Response> =>
  what.ok
    ? Response.json(what.value, { status: 201 })
    : Response.json({ sentence: await sentenceOf(what.failure) }, { status: failureStatus(what.failure) });

/** A file handed to a browser. Refusals are plain sentences: people follow these links. */
export async function handedFile(
  found: Outcome<OpenedFile | { file: FileFacts; bytes: Buffer }>,
): Promise<Response> {
  if (!found.ok)
    return new Response(await sentenceOf(found.failure), { status: failureStatus(found.failure) });
  const { value } = found;
  const body =
    "bytes" in value
      ? new Uint8Array(value.bytes)
      : (Readable.toWeb(Readable.from(value.parts)) as ReadableStream<Uint8Array>);
  return new Response(body, { headers: fileHeaders(value.file) });
}
/** Whether a picture is asked for as a small one. */
export const asksSmall = (request: Request): boolean => new URL(request.url).searchParams.has("small");
export const noFile = (): Response => new Response("There is no such file.", { status: 404 });

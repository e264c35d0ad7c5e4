import "server-only";
import type { FileFacts } from "@/core/form";
import { failureStatus, sentenceOf, type Outcome } from "@/services";
import { fileHeaders } from "./fileAnswers";

/** What a page is told of a file or a picture it has sent. */
export const added = async (what: Outcome<object>): Promise<Response> =>
  what.ok
    ? Response.json(what.value, { status: 201 })
    : Response.json({ sentence: await sentenceOf(what.failure) }, { status: failureStatus(what.failure) });

/** A file handed to a browser. Refusals are plain sentences: people follow these links. */
export async function handedFile(found: Outcome<{ file: FileFacts; bytes: Buffer }>): Promise<Response> {
  if (!found.ok)
    return new Response(await sentenceOf(found.failure), { status: failureStatus(found.failure) });
  return new Response(new Uint8Array(found.value.bytes), { headers: fileHeaders(found.value.file) });
}
/** Whether a picture is asked for as a small one. */
export const asksSmall = (request: Request): boolean => new URL(request.url).searchParams.has("small");
export const noFile = (): Response => new Response("There is no such file.", { status: 404 });

import { addFile, failureStatus, MAX_FILE_BYTES, sentenceOf } from "@/services";
import { bytesUpTo, currentActor, fromOurPage, NOT_OURS } from "@/web";

export const dynamic = "force-dynamic";

/**
 * Takes a file in: the body is its contents, `?name=` its name. Under /api, because the guard of all pages
 * would keep a copy of the body first, and cut it off.
 */
export async function POST(request: Request): Promise<Response> {
  if (!fromOurPage(request.headers.get("origin"), request.headers.get("host")))
    return Response.json({ sentence: NOT_OURS }, { status: 403 });
  const actor = await currentActor();
  if (!actor)
    return Response.json(
      {
        sentence:
          "You are signed out. Sign in on another page, then add the file again; what you typed is kept.",
      },
      { status: 401 },
    );
  // Told by its length, a body too long is not read at all: breaking off in its middle leaves the other end waiting.
  const told = Number(request.headers.get("content-length") ?? 0);
  const body = (request.body ?? []) as unknown as AsyncIterable<Uint8Array>;
  const bytes = told > MAX_FILE_BYTES ? null : await bytesUpTo(body, MAX_FILE_BYTES);
  if (!bytes)
    return Response.json(
      { sentence: `Files may have up to ${MAX_FILE_BYTES / 1_000_000} MB; this one has more.` },
      { status: 413 },
    );
  const added = await addFile(actor, new URL(request.url).searchParams.get("name") ?? "", bytes);
  return added.ok
    ? Response.json(added.value, { status: 201 })
    : Response.json({ sentence: await sentenceOf(added.failure) }, { status: failureStatus(added.failure) });
}

import { addFile, failureStatus, MAX_FILE_BYTES, sentenceOf, type Actor } from "@/services";
import { currentActor, fromOurPage, NOT_OURS, PAUSE_MS, readBody, Slots, WHOLE_MS } from "@/web";

export const dynamic = "force-dynamic";

/** Files on their way at the same time: of one person, and in all. */
const COMING = new Slots(4, 24);

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
  const tooLarge = () =>
    Response.json(
      { sentence: `Files may have up to ${MAX_FILE_BYTES / 1_000_000} MB; this one has more.` },
      { status: 413 },
    );
  // Told by its length, a body too long is not read at all: breaking off in its middle leaves the other end waiting.
  if (Number(request.headers.get("content-length") ?? 0) > MAX_FILE_BYTES) return tooLarge();
  const done = COMING.take(actor.id);
  if (!done)
    return Response.json(
      { sentence: "Several files of yours are on their way already. Add this one when they have arrived." },
      { status: 429, headers: { "retry-after": "5" } },
    );
  try {
    const body = (request.body ?? []) as unknown as AsyncIterable<Uint8Array>;
    const read = await readBody(body, { most: MAX_FILE_BYTES, pause: PAUSE_MS, whole: WHOLE_MS });
    if (!read.ok) return read.why === "too large" ? tooLarge() : tooSlow();
    return await keep(actor, new URL(request.url).searchParams.get("name") ?? "", read.bytes);
  } finally {
    done();
  }
}

const tooSlow = () =>
  Response.json({ sentence: "The file did not arrive in time. Add it again." }, { status: 408 });

async function keep(actor: Actor, name: string, bytes: Buffer): Promise<Response> {
  const added = await addFile(actor, name, bytes);
  return added.ok
    ? Response.json(added.value, { status: 201 })
    : Response.json({ sentence: await sentenceOf(added.failure) }, { status: failureStatus(added.failure) });
}

import { MAX_FILE_BYTES, type Actor } from "@/services";
import { fromOurPage, NOT_OURS } from "./origin";
import { Slots } from "./pace";
import { PAUSE_MS, readBody, WHOLE_MS } from "./readBody";
import { currentActor } from "./session";

/** Files on their way at the same time: of one person, and in all. */
const COMING = new Slots(4, 24);
/** The same of people outside, by their address: whoever sends slowly from there keeps nobody here waiting. */
const FROM_OUTSIDE = new Slots(8, 16);

const said = (sentence: string, status: number, headers: Record<string, string> = {}) =>
  Response.json({ sentence }, { status, headers });

/**
 * Takes a file in: the body is its contents, `?name=` its name. Under /api, because the guard of all pages would keep a
 * copy of the body first, and cut it off.
 * @param keep what is done with it once it is here
 * @param who whoever sends it; whoever is signed in where it is not said
 */
export async function takeUpload(
  request: Request,
  keep: (actor: Actor, name: string, bytes: Buffer) => Promise<Response>,
  who: () => Promise<Actor | null> = currentActor,
): Promise<Response> {
  if (!fromOurPage(request.headers.get("origin"), request.headers.get("host"))) return said(NOT_OURS, 403);
  const actor = await who();
  if (!actor)
    return said(
      who === currentActor
        ? "You are signed out. Sign in on another page, then add the file again; what you typed is kept."
        : "This page cannot take files any more. Load it again; what you typed is kept.",
      401,
    );
  const tooLarge = () =>
    said(`Files may have up to ${MAX_FILE_BYTES / 1_000_000} MB; this one has more.`, 413);
  // Told by its length, a body too long is not read at all: breaking off in its middle leaves the other end waiting.
  if (Number(request.headers.get("content-length") ?? 0) > MAX_FILE_BYTES) return tooLarge();
  // The web process has put there who calls, and not who they say they are.
  const address = request.headers.get("x-forwarded-for") ?? "";
  const done = who === currentActor ? COMING.take(actor.id) : FROM_OUTSIDE.take(address);
  if (!done)
    return said(
      "Several files are on their way from you already. Add this one when they have arrived.",
      429,
      {
        "retry-after": "5",
      },
    );
  try {
    const body = (request.body ?? []) as unknown as AsyncIterable<Uint8Array>;
    const read = await readBody(body, { most: MAX_FILE_BYTES, pause: PAUSE_MS, whole: WHOLE_MS });
    if (!read.ok)
      return read.why === "too large"
        ? tooLarge()
        : said("The file did not arrive in time. Add it again.", 408);
    return await keep(actor, new URL(request.url).searchParams.get("name") ?? "", read.bytes);
  } finally {
    done();
  }
}

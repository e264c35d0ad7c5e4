import { MAX_FILE_BYTES, Spool, type Actor, type Spooled } from "@/services";
import { fromOurPage, NOT_OURS } from "./origin";
import { Slots } from "./pace";
import { FILE_WHOLE_MS, PAUSE_MS, readBody, takeBody, WHOLE_MS } from "./readBody";
import { currentActor } from "./session";

/** Files on their way at the same time: of one person, and in all. */
const COMING = new Slots(4, 24);
/** The same of people outside, by their address: whoever sends slowly from there keeps nobody here waiting. */
const FROM_OUTSIDE = new Slots(8, 16);
/** Bytes of what is worked on as it comes, and not kept as a file. */
const MOST_IN_MEMORY = 25_000_000;

const said = (sentence: string, status: number, headers: Record<string, string> = {}) =>
  Response.json({ sentence }, { status, headers });

type Who = () => Promise<Actor | null>;
type Read = { ok: true; answer: Response } | { ok: false; why: "too large" | "too slow" };

/**
 * Takes a file in: the body is its contents, `?name=` its name. Under /api, because the guard of all pages would keep a
 * copy of the body first, and cut it off. It goes to the disk as it comes.
 * @param keep what is done with it once it is here
 * @param who whoever sends it; whoever is signed in where it is not said
 */
export const takeFile = (
  request: Request,
  keep: (actor: Actor, name: string, contents: Spooled) => Promise<Response>,
  who: Who = currentActor,
): Promise<Response> =>
  coming(request, who, MAX_FILE_BYTES, async (actor, body) => {
    const spool = await Spool.begin();
    try {
      const limits = { most: MAX_FILE_BYTES, pause: PAUSE_MS, whole: FILE_WHOLE_MS };
      const read = await takeBody(body, limits, (part) => spool.take(part));
      return read.ok ? { ok: true, answer: await keep(actor, nameIn(request), spool.whole()) } : read;
    } finally {
      await spool.drop();
    }
  });

/** The same of what is read whole, and not kept as it is: a sheet, a template, a picture of a text. */
export const takeUpload = (
  request: Request,
  keep: (actor: Actor, name: string, bytes: Buffer) => Promise<Response>,
): Promise<Response> =>
  coming(request, currentActor, MOST_IN_MEMORY, async (actor, body) => {
    const read = await readBody(body, { most: MOST_IN_MEMORY, pause: PAUSE_MS, whole: WHOLE_MS });
    return read.ok ? { ok: true, answer: await keep(actor, nameIn(request), read.bytes) } : read;
  });

const nameIn = (request: Request): string => new URL(request.url).searchParams.get("name") ?? "";

async function coming(
  request: Request,
  who: Who,
  most: number,
  read: (actor: Actor, body: AsyncIterable<Uint8Array>) => Promise<Read>,
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
  const tooLarge = () => said(`Files may have up to ${most / 1_000_000} MB; this one has more.`, 413);
  // Told by its length, a body too long is not read at all: breaking off in its middle leaves the other end waiting.
  if (Number(request.headers.get("content-length") ?? 0) > most) return tooLarge();
  // The web process has put there who calls, and not who they say they are.
  const address = request.headers.get("x-forwarded-for") ?? "";
  const done = who === currentActor ? COMING.take(actor.id) : FROM_OUTSIDE.take(address);
  if (!done)
    return said(
      "Several files are on their way from you already. Add this one when they have arrived.",
      429,
      { "retry-after": "5" },
    );
  try {
    const came = await read(actor, (request.body ?? []) as unknown as AsyncIterable<Uint8Array>);
    if (came.ok) return came.answer;
    return came.why === "too large"
      ? tooLarge()
      : said("The file did not arrive in time. Add it again.", 408);
  } finally {
    done();
  }
}

import { onChanges, showsOf } from "@/services";
import { currentActor, Slots } from "@/web";

export const dynamic = "force-dynamic";
const BEAT_MS = 25_000;
/** Changes come in bursts; one tick for each burst is enough. */
const GATHER_MS = 150;
/** Open pages of one person that are looked at; hidden ones let go. */
const OPEN = new Slots(24, 2000);

/**
 * A stream of ticks: something changed that the page `?at=` may show, look again. It carries no contents, so it can
 * tell nothing it should not.
 */
export async function GET(request: Request): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response(null, { status: 401 });
  const done = OPEN.take(actor.id);
  // Said by a status, so that the browser does not try again by itself; the page does, after a while.
  if (!done) return new Response(null, { status: 429, headers: { "retry-after": "30" } });
  const shows = await showsOf(actor, new URL(request.url).searchParams.get("at") ?? "");
  const encoder = new TextEncoder();
  let end = () => {};
  const stream = new ReadableStream({
    async start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          end();
        }
      };
      let gathering: ReturnType<typeof setTimeout> | null = null;
      const stop = await onChanges(shows, () => {
        gathering ??= setTimeout(() => {
          gathering = null;
          send("data: changed\n\n");
        }, GATHER_MS);
      });
      const beat = setInterval(() => send(": still here\n\n"), BEAT_MS);
      end = () => {
        clearInterval(beat);
        if (gathering) clearTimeout(gathering);
        stop();
        done();
      };
      request.signal.addEventListener("abort", () => {
        end();
        try {
          controller.close();
        } catch {
          // Closed by the other side already.
        }
      });
      send(": listening\n\n");
    },
    cancel: () => end(),
  });
  return new Response(stream, {
    headers: {
      "content-type": "text/event-stream",
      "cache-control": "no-store, no-transform",
      "x-accel-buffering": "no",
    },
  });
}

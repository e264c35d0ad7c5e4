import { pressedInChat } from "@/services";

export const dynamic = "force-dynamic";

const MOST_BYTES = 200_000;

/** The chat room says that somebody has pressed an answer. Who it is hangs on its signature alone. */
export async function POST(request: Request): Promise<Response> {
  const body = await bodyOf(request);
  if (body === null) return Response.json({ why: "That is more than a press says." }, { status: 413 });
  const { status, ...said } = await pressedInChat({
    method: "POST",
    path: new URL(request.url).pathname,
    body,
    header: (name) => request.headers.get(name),
  });
  return Response.json(said, { status, headers: { "cache-control": "no-store" } });
}

/** Null where it is too long: nobody has to say how long it is before. */
async function bodyOf(request: Request): Promise<Buffer | null> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > MOST_BYTES) return null;
    parts.push(part);
  }
  return Buffer.concat(parts);
}

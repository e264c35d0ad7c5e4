import { failureStatus, readFile, sentenceOf } from "@/services";
import { currentActor, fileHeaders } from "@/web";

export const dynamic = "force-dynamic";

/** A file, for whoever may see the field it stands in. Refusals are plain sentences: people follow these links. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<{ file: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then open the file again.", { status: 401 });
  const found = await readFile(actor, (await params).file);
  if (!found.ok)
    return new Response(await sentenceOf(found.failure), { status: failureStatus(found.failure) });
  return new Response(new Uint8Array(found.value.bytes), { headers: fileHeaders(found.value.file) });
}

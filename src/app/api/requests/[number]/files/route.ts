import { failureStatus, openFile, requestFiles, sentenceOf } from "@/services";
import { currentActor, fileHeaders, packFiles } from "@/web";

export const dynamic = "force-dynamic";

/** All files of a request that whoever asks may open, as one ZIP. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then save the files again.", { status: 401 });
  const { number } = await params;
  const found = await requestFiles(actor, number);
  if (!found.ok)
    return new Response(await sentenceOf(found.failure), { status: failureStatus(found.failure) });
  if (found.value.length === 0)
    return new Response(`${number} has no files that you may open.`, { status: 404 });
  // Asked again for each: what somebody may see can change while it is saved.
  const read = async (id: string) => {
    const file = await openFile(actor, id);
    return file.ok ? file.value.parts : null;
  };
  const name = `${number} files.zip`;
  // How long it will be is not known before it has been made.
  const { "content-length": _length, ...headers } = fileHeaders({ name, type: "application/zip", size: 0 });
  return new Response(packFiles(found.value, read), { headers });
}

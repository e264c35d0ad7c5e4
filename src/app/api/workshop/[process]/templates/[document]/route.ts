import { bringTemplate, failureStatus, sentenceOf, templateAsNow } from "@/services";
import { currentActor, handedFile, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ process: string; document: string }>;
}

/** Takes a DOCX in as the next version of a template. */
export const POST = (request: Request, { params }: Props): Promise<Response> =>
  takeUpload(request, async (actor, name, bytes) => {
    const { process, document } = await params;
    const came = await bringTemplate(actor, process, document, name, bytes);
    return came.ok
      ? Response.json(came.value)
      : Response.json({ sentence: await sentenceOf(came.failure) }, { status: failureStatus(came.failure) });
  });

/** The template of the draft as a file, its tags as they say by now. */
export async function GET(_: Request, { params }: Props): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then save the file again.", { status: 401 });
  const { process, document } = await params;
  return handedFile(await templateAsNow(actor, process, document));
}

import { addFile, failureStatus, sentenceOf } from "@/services";
import { takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a file in; it belongs to nobody's request until a form that names it is sent. */
export const POST = (request: Request): Promise<Response> =>
  takeUpload(request, async (actor, name, bytes) => {
    const added = await addFile(actor, name, bytes);
    return added.ok
      ? Response.json(added.value, { status: 201 })
      : Response.json(
          { sentence: await sentenceOf(added.failure) },
          { status: failureStatus(added.failure) },
        );
  });

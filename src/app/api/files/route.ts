import { addFile } from "@/services";
import { addedFile, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a file in; it belongs to nobody's request until a form that names it is sent. */
export const POST = (request: Request): Promise<Response> =>
  takeUpload(request, async (actor, name, bytes) => addedFile(await addFile(actor, name, bytes)));

import { addFile } from "@/services";
import { added, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a file in; it belongs to nobody's request until a form that names it is sent. */
export const POST = (request: Request): Promise<Response> =>
  takeUpload(request, async (actor, name, bytes) => added(await addFile(actor, name, bytes)));

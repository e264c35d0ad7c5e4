import { addFile } from "@/services";
import { added, takeFile } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a file in; it belongs to nobody's request until a form that names it is sent. */
export const POST = (request: Request): Promise<Response> =>
  takeFile(request, async (actor, name, contents) => added(await addFile(actor, name, contents)));

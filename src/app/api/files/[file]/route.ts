import { openFile, readSmall } from "@/services";
import { asksSmall, currentActor, handedFile } from "@/web";

export const dynamic = "force-dynamic";

/** A file, for whoever may see the field it stands in; `?small` gives a picture small. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ file: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then open the file again.", { status: 401 });
  return handedFile(await (asksSmall(request) ? readSmall : openFile)(actor, (await params).file));
}

import { openFile, readSmall, visitorBy } from "@/services";
import { asksSmall, handedFile, noFile } from "@/web";

export const dynamic = "force-dynamic";

/** A file that somebody outside added to a form they have not sent yet. */
export async function GET(request: Request, { params }: { params: Promise<{ file: string }> }) {
  const actor = await visitorBy(new URL(request.url).searchParams.get("visit") ?? "");
  if (!actor) return noFile();
  return handedFile(await (asksSmall(request) ? readSmall : openFile)(actor, (await params).file));
}

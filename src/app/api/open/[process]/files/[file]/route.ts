import { readFile, visitorBy } from "@/services";
import { handedFile, noFile } from "@/web";

export const dynamic = "force-dynamic";

/** A file that somebody outside added to a form they have not sent yet. */
export async function GET(request: Request, { params }: { params: Promise<{ file: string }> }) {
  const actor = await visitorBy(new URL(request.url).searchParams.get("visit") ?? "");
  return actor ? handedFile(await readFile(actor, (await params).file)) : noFile();
}

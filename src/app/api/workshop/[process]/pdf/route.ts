import { printedProcess } from "@/services";
import { currentActor, handedFile } from "@/web";

export const dynamic = "force-dynamic";

/** Form and route of a draft as a PDF. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ process: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then make the PDF again.", { status: 401 });
  return handedFile(await printedProcess(actor, (await params).process));
}

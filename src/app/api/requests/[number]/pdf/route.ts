import { printedRequest } from "@/services";
import { currentActor, handedFile } from "@/web";

export const dynamic = "force-dynamic";

/** A request with its trail as a PDF, as whoever asks for it sees it. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then make the PDF again.", { status: 401 });
  return handedFile(await printedRequest(actor, (await params).number));
}

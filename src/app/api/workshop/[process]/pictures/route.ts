import { addPicture } from "@/services";
import { added, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a picture in that is to stand in a text of a process's form. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ process: string }> },
): Promise<Response> {
  const { process } = await params;
  return takeUpload(request, async (actor, _, bytes) => added(await addPicture(actor, process, bytes)));
}

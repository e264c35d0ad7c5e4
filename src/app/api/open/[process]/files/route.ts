import { addOpenFile, visitorBy } from "@/services";
import { added, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes in a file for a public form; it is removed after a day where the form is not sent. */
export async function POST(request: Request, { params }: { params: Promise<{ process: string }> }) {
  const { process } = await params;
  return takeUpload(
    request,
    async (actor, name, bytes) => added(await addOpenFile(actor, { process }, name, bytes)),
    () => visitorBy(new URL(request.url).searchParams.get("visit") ?? ""),
  );
}

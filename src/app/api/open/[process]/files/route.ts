import { addOpenFile, visitorBy } from "@/services";
import { added, takeFile } from "@/web";

export const dynamic = "force-dynamic";

/** Takes in a file for a public form; it is removed after a day where the form is not sent. */
export async function POST(request: Request, { params }: { params: Promise<{ process: string }> }) {
  const { process } = await params;
  return takeFile(
    request,
    async (actor, name, contents) => added(await addOpenFile(actor, { process }, name, contents)),
    () => visitorBy(new URL(request.url).searchParams.get("visit") ?? ""),
  );
}

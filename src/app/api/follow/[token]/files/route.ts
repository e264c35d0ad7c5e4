import { addFollowedFile, linkedBy } from "@/services";
import { added, takeFile } from "@/web";

export const dynamic = "force-dynamic";

/** Takes in a file for what somebody outside was asked to change. */
export async function POST(request: Request, { params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return takeFile(
    request,
    async (_, name, contents) => added(await addFollowedFile(token, name, contents)),
    async () => {
      const by = await linkedBy(token);
      return "gone" in by ? null : by.actor;
    },
  );
}

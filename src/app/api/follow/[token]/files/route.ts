import { addFollowedFile, followerBy } from "@/services";
import { added, takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes in a file for what somebody outside was asked to change. */
export async function POST(request: Request, { params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  return takeUpload(
    request,
    async (_, name, bytes) => added(await addFollowedFile(token, name, bytes)),
    async () => {
      const by = await followerBy(token);
      return "gone" in by ? null : by.actor;
    },
  );
}

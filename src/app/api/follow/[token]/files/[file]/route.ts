import { followedFile, followedSmall } from "@/services";
import { asksSmall, handedFile } from "@/web";

export const dynamic = "force-dynamic";

/** A file of a request that somebody follows: one they sent, or one that came with a letter to them. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ token: string; file: string }> },
) {
  const { token, file } = await params;
  return handedFile(await (asksSmall(request) ? followedSmall : followedFile)(token, file));
}

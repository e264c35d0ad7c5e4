import { handleApi } from "@/web";

export const dynamic = "force-dynamic";

async function handle(request: Request, { params }: { params: Promise<{ path: string[] }> }): Promise<Response> {
  return handleApi(request, (await params).path);
}
export { handle as GET, handle as POST, handle as PUT, handle as DELETE, handle as PATCH };

import { failureStatus, refusedRows, sentenceOf } from "@/services";
import { currentActor, fileHeaders } from "@/web";

export const dynamic = "force-dynamic";

/** The rows of a sheet that were refused, to be mended and brought in again. */
export async function GET(_: Request, { params }: { params: Promise<{ sheet: string }> }): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then save the rows again.", { status: 401 });
  const found = await refusedRows(actor, (await params).sheet);
  if (!found.ok)
    return new Response(await sentenceOf(found.failure), { status: failureStatus(found.failure) });
  const bytes = Buffer.from(`\ufeff${found.value.csv}`, "utf8");
  return new Response(new Uint8Array(bytes), {
    headers: fileHeaders({ name: found.value.name, type: "text/csv; charset=utf-8", size: bytes.length }),
  });
}

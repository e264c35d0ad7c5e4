import { exportLog, failureStatus, sentenceOf } from "@/services";
import { currentActor } from "@/web";

export const dynamic = "force-dynamic";

/** The log as CSV, for those with the rights of the office. */
export async function GET(request: Request): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then save the log again.", { status: 401 });
  const query = new URL(request.url).searchParams;
  const csv = await exportLog(actor, {
    kind: query.get("kind") ?? "",
    person: query.get("person") ?? "",
    before: "",
  });
  if (!csv.ok) return new Response(await sentenceOf(csv.failure), { status: failureStatus(csv.failure) });
  return new Response(csv.value, {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="log.csv"',
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
    },
  });
}

import { draftView, failureStatus, sentenceOf } from "@/services";
import { currentActor } from "@/web";

export const dynamic = "force-dynamic";

/** The office a draft is designed against, for pages that do not carry it because it is large. */
export async function GET(
  _request: Request,
  { params }: { params: Promise<{ process: string }> },
): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return new Response("You are signed out. Sign in, then open the draft again.", { status: 401 });
  const draft = await draftView(actor, (await params).process);
  if (!draft.ok)
    return new Response(await sentenceOf(draft.failure), { status: failureStatus(draft.failure) });
  const { office, facts } = draft.value;
  return Response.json(
    { data: office.data, people: facts.people, office: facts.office ?? null },
    { headers: { "cache-control": "private, no-store" } },
  );
}

import { releasePage } from "@/services";
import { answerOf, requireActor } from "@/web";
import { ReleaseForm } from "./ReleaseForm";
import { Releases } from "./Releases";

export const dynamic = "force-dynamic";

export default async function ReleasePage({ params }: { params: Promise<{ process: string }> }) {
  const { process } = await params;
  const actor = await requireActor(`/workshop/${process}/release`);
  const page = await answerOf(await releasePage(actor, process));
  if (!page.ok) return <p>{page.sentence}</p>;
  const v = page.value;
  return (
    <div className="grid gap-x-12 gap-y-8 lg:grid-cols-2">
      <ReleaseForm
        process={process}
        proposed={v.proposed}
        first={v.releases.length === 0}
        changes={v.changes}
        breaks={v.breaks}
      />
      <Releases process={process} releases={v.releases} used={v.used} zone={actor.zone} />
    </div>
  );
}

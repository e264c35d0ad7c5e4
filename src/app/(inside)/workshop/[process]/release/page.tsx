import { releasePage } from "@/services";
import { Mark, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { ReleaseForm } from "./ReleaseForm";

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
      />
      <section>
        <h2 className="mb-2">Releases</h2>
        {v.releases.length === 0 && <p className="text-soft">None yet.</p>}
        <ol>
          {v.releases.map((r) => (
            <li key={r.id} className="border-t border-line py-2">
              <span className="font-medium">{r.version}</span>{" "}
              <Mark tone={r.state === "live" ? "agree" : "plain"}>{r.state}</Mark>
              <span className="text-sm text-soft">
                {" "}
                {whenText(r.releasedAt, actor.zone)}
                {r.releasedBy && `, ${r.releasedBy}`}
              </span>
              {r.note && <span className="block">{r.note}</span>}
            </li>
          ))}
        </ol>
      </section>
    </div>
  );
}

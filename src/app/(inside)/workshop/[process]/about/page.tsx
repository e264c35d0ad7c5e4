import { ownersView, startsFaring, whereUsed } from "@/services";
import { answerOf, requireActor } from "@/web";
import { AboutSheet } from "./AboutSheet";

export default async function Page({ params }: { params: Promise<{ process: string }> }) {
  const { process } = await params;
  const actor = await requireActor(`/workshop/${process}/about`);
  const owned = await answerOf(await ownersView(actor, process));
  const used = await answerOf(await whereUsed(actor, process));
  const fares = await startsFaring(actor, process);
  // Where the process may not be seen the layout has said so already.
  return owned.ok ? (
    <AboutSheet
      process={process}
      owned={owned.value}
      used={used.ok ? used.value : []}
      fares={fares}
      zone={actor.zone}
    />
  ) : null;
}

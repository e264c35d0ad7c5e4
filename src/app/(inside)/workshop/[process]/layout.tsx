import type { ReactNode } from "react";
import { draftView } from "@/services";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { DraftHost, type HostedStart } from "./DraftHost";

/** People a page of the Workshop carries itself. */
const CROWD = 400;

export default async function ProcessLayout({
  params,
  children,
}: {
  params: Promise<{ process: string }>;
  children: ReactNode;
}) {
  const { process } = await params;
  const actor = await requireActor(`/workshop/${process}/route`);
  const draft = await answerOf(await draftView(actor, process));
  if (!draft.ok) return <Missing sentence={draft.sentence} back={{ href: "/workshop", name: "Workshop" }} />;
  const { definition, version, live, office, facts, now } = draft.value;
  // A page with ten thousand people in it would be megabytes; the browser fetches them beside it.
  const crowd = office.data.people.length > CROWD;
  const start: HostedStart = {
    definition,
    version,
    now,
    office: crowd ? { ...office, data: null } : office,
    facts: crowd ? { ...facts, people: {}, office: undefined } : facts,
  };
  return (
    <DraftHost process={process} start={start} live={live}>
      {children}
    </DraftHost>
  );
}

import type { ReactNode } from "react";
import { draftView } from "@/services";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { DraftHost } from "./DraftHost";

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
  return (
    <DraftHost process={process} start={{ definition, version, office, facts, now }} live={live}>
      {children}
    </DraftHost>
  );
}

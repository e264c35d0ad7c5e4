"use client";
import { useMemo, useState, type ReactNode } from "react";
import { WorkshopProvider, WorkshopFrame, type DraftKeeper, type DraftStart } from "@/workshop";
import { lookUpAction } from "../../../actions/requests";
import { draftSinceAction, editDraftAction } from "../../../actions/workshop";

/** Keeps one draft while its sheets are changed between; a page refreshed from outside does not disturb it. */
export function DraftHost({
  process,
  start,
  live,
  children,
}: {
  process: string;
  start: DraftStart;
  live: string | null;
  children: ReactNode;
}) {
  const [held] = useState(start);
  const keeper = useMemo(
    (): DraftKeeper => ({
      save: (base, edits) => editDraftAction(process, base, edits),
      since: (version) => draftSinceAction(process, version),
      reload: () => window.location.reload(),
    }),
    [process],
  );
  return (
    <WorkshopProvider start={held} live={live} keeper={keeper} lookUp={lookUpAction}>
      <WorkshopFrame>{children}</WorkshopFrame>
    </WorkshopProvider>
  );
}

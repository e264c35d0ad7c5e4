"use client";
import { useCallback, useState, type ReactNode } from "react";
import type { Edit } from "@/core/route";
import { WorkshopProvider, WorkshopFrame, type DraftStart } from "@/workshop";
import { lookUpAction } from "../../../actions/requests";
import { editDraftAction } from "../../../actions/workshop";

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
  const save = useCallback((base: number, edits: Edit[]) => editDraftAction(process, base, edits), [process]);
  const reload = useCallback(() => window.location.reload(), []);
  return (
    <WorkshopProvider start={held} live={live} save={save} reload={reload} lookUp={lookUpAction}>
      <WorkshopFrame>{children}</WorkshopFrame>
    </WorkshopProvider>
  );
}

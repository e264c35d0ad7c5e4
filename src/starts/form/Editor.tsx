"use client";
import { AudienceChoice, SentChip } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";

/** Who may ask, and what comes once they have. */
export function Editor({ start, onChange }: StartEditorProps<"form">) {
  const { sent, ...always } = start;
  return (
    <span className="flex flex-wrap items-center gap-x-1.5">
      Form, filled in and sent by
      <AudienceChoice plain who={start.who} onChange={(who) => onChange({ ...start, who })} />
      then
      <SentChip
        sent={sent ?? {}}
        onChange={(to) => onChange(to.says || to.leads ? { ...always, sent: to } : always)}
      />
    </span>
  );
}

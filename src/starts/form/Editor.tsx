"use client";
import { AudienceChoice } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";

/** Who may ask. */
export const Editor = ({ start, onChange }: StartEditorProps<"form">) => (
  <span className="flex flex-wrap items-center gap-x-1.5">
    Form, filled in and sent by
    <AudienceChoice plain who={start.who} onChange={(who) => onChange({ ...start, who })} />
  </span>
);

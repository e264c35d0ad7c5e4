"use client";
import { RuleEditor, TemplateCell } from "@/workshop/parts";
import type { RungEditorProps } from "../editor";

export function Editor({ action, onChange, scope, id, label }: RungEditorProps<"tell">) {
  return (
    <>
      <RuleEditor
        id={id}
        inRung
        rule={action.who}
        scope={scope}
        onChange={(who) => onChange({ ...action, who })}
      />
      <TemplateCell
        label={`${label}: text`}
        value={action.text}
        scope={scope}
        onCommit={(text) => onChange({ ...action, text })}
      />
    </>
  );
}

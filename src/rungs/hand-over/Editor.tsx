"use client";
import { RuleEditor } from "@/workshop/parts";
import type { RungEditorProps } from "../editor";

export function Editor({ action, onChange, scope, id }: RungEditorProps<"hand over">) {
  return (
    <RuleEditor
      id={id}
      inRung
      rule={action.to}
      scope={scope}
      onChange={(to) => onChange({ do: "hand over", to })}
    />
  );
}

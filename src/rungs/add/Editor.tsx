"use client";
import { RuleEditor } from "@/workshop/parts";
import type { RungEditorProps } from "../editor";

export function Editor({ action, onChange, scope, id }: RungEditorProps<"add">) {
  return (
    <RuleEditor
      id={id}
      inRung
      rule={action.who}
      scope={scope}
      onChange={(who) => onChange({ do: "add", who })}
    />
  );
}

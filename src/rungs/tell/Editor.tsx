"use client";
import { LetterChoice, RuleEditor, TemplateCell } from "@/workshop/parts";
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
      <LetterChoice
        id={`${id}-letter`}
        letter={action.letter}
        own="a notice on their screen"
        onPick={(letter) => {
          const { letter: _, ...rest } = action;
          onChange(letter === undefined ? rest : { ...rest, letter });
        }}
      >
        <TemplateCell
          label={`${label}: subject`}
          value={action.subject ?? ""}
          scope={scope}
          onCommit={(t) => {
            const { subject: _, ...rest } = action;
            onChange(t.trim() ? { ...rest, subject: t } : rest);
          }}
        />
        <TemplateCell
          label={`${label}: text`}
          value={action.text}
          scope={scope}
          onCommit={(text) => onChange({ ...action, text })}
        />
      </LetterChoice>
    </>
  );
}

"use client";
import { TextCell } from "@/workshop/parts";
import { Select } from "@/ui";
import type { RungEditorProps } from "../editor";

export function Editor({ action, onChange, answers, label }: RungEditorProps<"answer">) {
  return (
    <span className="flex gap-1.5">
      <Select
        aria-label={`${label}: answer`}
        className="!w-44"
        value={action.answer}
        onPick={(value) => onChange({ ...action, answer: value })}
        options={answers.map((a) => ({ value: a.id, label: a.label }))}
      />
      <TextCell
        className="input"
        aria-label={`${label}: note`}
        value={action.note}
        onCommit={(note) => onChange({ ...action, note })}
      />
    </span>
  );
}

"use client";
import { TextCell } from "@/workshop/parts";
import type { RungEditorProps } from "../editor";

export function Editor({ action, onChange, answers, label }: RungEditorProps<"answer">) {
  return (
    <span className="flex gap-1.5">
      <select
        aria-label={`${label}: answer`}
        className="input !w-44"
        value={action.answer}
        onChange={(e) => onChange({ ...action, answer: e.target.value })}
      >
        {answers.map((a) => (
          <option key={a.id} value={a.id}>
            {a.label}
          </option>
        ))}
      </select>
      <TextCell
        className="input"
        aria-label={`${label}: note`}
        value={action.note}
        onCommit={(note) => onChange({ ...action, note })}
      />
    </span>
  );
}

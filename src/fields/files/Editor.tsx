import { MOST_FILES_MB } from "@/core/form";
import { Detail, EndingsDetail, TextCell } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set }: FieldEditorProps) {
  return (
    <>
      <EndingsDetail field={field} onSet={(patch) => set(patch)} />
      <Detail says="Together up to, in MB">
        <TextCell
          className="input max-w-40"
          inputMode="decimal"
          aria-label={`All files of ${field.name} together, in MB`}
          placeholder={String(MOST_FILES_MB)}
          value={field.max ?? ""}
          onCommit={(t) => set({ max: t.trim() || null })}
        />
      </Detail>
    </>
  );
}

import { USUAL_FILE_MB } from "@/core/form";
import { Detail, EndingsDetail, TextCell } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set }: FieldEditorProps) {
  return (
    <>
      <EndingsDetail field={field} onSet={(patch) => set(patch)} />
      <Detail says="Up to, in MB">
        <TextCell
          className="input max-w-40"
          inputMode="decimal"
          aria-label={`Largest file of ${field.name}, in MB`}
          placeholder={String(USUAL_FILE_MB)}
          value={field.max ?? ""}
          onCommit={(t) => set({ max: t.trim() || null })}
        />
      </Detail>
    </>
  );
}

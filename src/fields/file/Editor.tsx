import { MAX_FILE_MB } from "@/core/form";
import { Detail, distinct, TextCell } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set }: FieldEditorProps) {
  return (
    <>
      <Detail says="Kinds of files">
        <TextCell
          className="input max-w-80"
          aria-label={`Kinds of files of ${field.name}`}
          placeholder="any; or endings, for example pdf, jpg"
          value={(field.options ?? []).join(", ")}
          onCommit={(t) => {
            const endings = t.toLowerCase().split(/[\s,;]+/);
            const options = distinct(endings.map((o) => o.replace(/^\./, "")));
            set({ options: options.length > 0 ? options : null });
          }}
        />
      </Detail>
      <Detail says="Up to, in MB">
        <TextCell
          className="input max-w-40"
          inputMode="decimal"
          aria-label={`Largest file of ${field.name}, in MB`}
          placeholder={String(MAX_FILE_MB)}
          value={field.max ?? ""}
          onCommit={(t) => set({ max: t.trim() || null })}
        />
      </Detail>
    </>
  );
}

import { Detail, distinct } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set }: FieldEditorProps) {
  const options = field.options ?? [];
  const text = options.join("\n");
  return (
    <Detail says="Choices, one a line">
      <textarea
        className="input"
        rows={Math.min(8, Math.max(3, options.length + 1))}
        aria-label={`Choices of ${field.name}`}
        defaultValue={text}
        key={text}
        onBlur={(e) => {
          const typed = distinct(e.target.value.split("\n"));
          if (typed.join("\n") !== text) set({ options: typed });
        }}
      />
    </Detail>
  );
}

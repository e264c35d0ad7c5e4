import { Select } from "@/ui";
import { Detail } from "./Detail";
import type { FieldEditorProps } from "./kindViews";

/** Which register a field looks in. */
export function RegisterDetail({ field, set, registers }: FieldEditorProps) {
  const id = `register-${field.id}`;
  return (
    <Detail says="Looks in" htmlFor={id}>
      <Select
        id={id}
        className="max-w-60"
        value={field.register ?? ""}
        onPick={(value) => set({ register: value || null })}
        empty="Choose a register…"
        options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
      />
    </Detail>
  );
}

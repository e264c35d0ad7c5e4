import { Detail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set, registers }: FieldEditorProps) {
  const id = `register-${field.id}`;
  return (
    <Detail says="Looks in" htmlFor={id}>
      <select
        id={id}
        className="input max-w-60"
        value={field.register ?? ""}
        onChange={(e) => set({ register: e.target.value || null })}
      >
        <option value="">Choose a register…</option>
        {Object.values(registers).map((r) => (
          <option key={r.key} value={r.key}>
            {r.name}
          </option>
        ))}
      </select>
    </Detail>
  );
}

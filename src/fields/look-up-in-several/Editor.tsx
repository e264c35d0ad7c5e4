import { Boxes } from "@/ui";
import { Detail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export function Editor({ field, set, registers }: FieldEditorProps) {
  return (
    <Detail says="Looks in">
      <Boxes
        label={`Registers that ${field.name} looks in`}
        chosen={field.registers ?? []}
        options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
        onChoose={(keys) => set({ registers: keys.length > 0 ? keys : null })}
      />
    </Detail>
  );
}

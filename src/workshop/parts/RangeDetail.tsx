import type { Field } from "@/core/form";
import { Detail } from "./Detail";
import { TextCell } from "./TextCell";

/** The least and the greatest value of a field, with an example of each. */
export function RangeDetail({
  field,
  set,
  least,
  most,
}: {
  field: Field;
  set(patch: { min?: string | null; max?: string | null }): void;
  least: string;
  most: string;
}) {
  return (
    <Detail says="From … to">
      <span className="flex gap-2">
        <TextCell
          className="input max-w-40"
          aria-label={`Least of ${field.name}`}
          placeholder={least}
          value={field.min ?? ""}
          onCommit={(t) => set({ min: t.trim() || null })}
        />
        <TextCell
          className="input max-w-40"
          aria-label={`Most of ${field.name}`}
          placeholder={most}
          value={field.max ?? ""}
          onCommit={(t) => set({ max: t.trim() || null })}
        />
      </span>
    </Detail>
  );
}

import type { FactsData, Field, Stored } from "@/core/form";
import { ShownValue } from "./FieldInput";

/**
 * A value for reading; where it cannot be worked out, the reason in its place.
 * @param short says only that, with the reason to be pointed at: for cells
 */
export function WorkedValue({
  failed,
  short = false,
  ...shown
}: {
  field: Field;
  value: Stored | undefined;
  facts: FactsData;
  failed: string | undefined;
  short?: boolean;
}) {
  if (failed === undefined) return <ShownValue {...shown} />;
  return (
    <span className="text-sm whitespace-normal text-brick" title={failed}>
      {short ? "cannot be worked out" : failed}
    </span>
  );
}

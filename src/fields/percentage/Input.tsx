import { numberText } from "@/ui";
import { NumberInput } from "@/forms/parts";
import type { FieldView } from "../input";

/** The sign may be typed, and stands beside it in any case. */
const withoutSign = (text: string): string => text.replace(/\s*%\s*$/, "");

export const view: FieldView = {
  Input: (p) => (
    <span className="flex items-center gap-1.5">
      <NumberInput {...p} width="max-w-32" bare={withoutSign} />
      <span className="text-soft">%</span>
    </span>
  ),
  shown: (v) => `${numberText(v)} %`,
  figures: true,
  grouped: false,
};

import { numberText } from "@/ui";
import { NumberInput } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => <NumberInput {...p} />,
  shown: (v) => numberText(v),
  figures: true,
  grouped: false,
};

import type { FieldView } from "../input";

/** The form draws its pages itself. */
export const view: FieldView = { Input: () => null, shown: () => "", figures: false, grouped: true };

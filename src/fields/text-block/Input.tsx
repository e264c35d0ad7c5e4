import type { FieldView } from "../input";

/** The form draws it itself. */
export const view: FieldView = { Input: () => null, shown: () => "", figures: false, grouped: true };

import type { FieldView } from "../input";

/** The form draws its heading itself. */
export const view: FieldView = { Input: () => null, shown: () => "", figures: false, grouped: true };

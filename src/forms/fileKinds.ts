import type { Field } from "@/core/form";

/** The endings a field takes, with their dots; none for any. */
export const acceptOf = (field: Pick<Field, "options">): string[] =>
  (field.options ?? []).map((o) => `.${o.replace(/^\./, "")}`);

export const emptyFile = (name: string): string => `"${name}" is empty.`;

import type { FormData } from "@/core/form";
import type { FormSource } from "./useEvaluation";

/** What of a form's values whoever has it may fill in. */
export const onlyEditable = (data: FormData, { access }: Pick<FormSource, "access">): FormData =>
  Object.fromEntries(Object.entries(data).filter(([id]) => access[id] === "edit"));

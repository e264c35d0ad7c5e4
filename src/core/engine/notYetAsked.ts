import type { FormResult } from "../form";
import type { Refusal } from "./commands";
import type { EngineFacts } from "./facts";

/**
 * A form is not decided on while something its checks ask of records is not known. Whoever gives the command looks first:
 * it is refused only where what is asked is another thing than what was looked for.
 */
export function notYetAsked({ asked }: Pick<FormResult, "asked">, facts: EngineFacts): Refusal | null {
  const refusal: Refusal = { code: "records-unasked", data: {} };
  if (facts.onlyAsks) return refusal;
  if (facts.waivesRecords) return null;
  return asked.some((a) => facts.recordsThere(a) === null) ? refusal : null;
}

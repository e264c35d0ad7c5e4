import { readText } from "./readText";
import { templateParts } from "./template";
import type { Value } from "./values";

/**
 * A template as it reads: nothing stands for what has no value.
 * @param money whether a formula is just the name of a sum of money: it reads with its cents, which a number worked
 *   out on the way does not know of
 */
export const templateText = (
  template: string,
  valueOf: (formula: string) => Value,
  money: (formula: string) => boolean,
): string =>
  templateParts(template)
    .map((p) => ("text" in p ? p.text : readText(valueOf(p.formula), money(p.formula))))
    .join("");

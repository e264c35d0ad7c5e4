import { isNum } from "./numbers";
import { templateParts } from "./template";
import { valueText, type Value } from "./values";

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
    .map((p) => {
      if ("text" in p) return p.text;
      const v = valueOf(p.formula);
      if (v === null) return "";
      return isNum(v) && money(p.formula) ? v.toFixed(2) : valueText(v);
    })
    .join("");

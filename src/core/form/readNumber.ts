/**
 * What somebody typed as a number, as decimal text. Groups of three may be kept apart by spaces, points, commas or
 * apostrophes; where both a point and a comma stand, the last of them is the decimal one. Whether "1,250" is a thousand
 * or a little more than one cannot be told: null, and whoever typed it is asked. Null, too, for what is no number.
 */
export function readNumber(text: string): string | null {
  const t = text.replace(/[\s\u00a0\u202f'’]/g, "");
  const m = /^([+-]?)(\d[\d.,]*)$/.exec(t);
  if (!m) return null;
  const [, sign, digits = ""] = m;
  const signed = (s: string) => `${sign === "-" ? "-" : ""}${s}`;
  const [points, commas] = [digits.split(".").length - 1, digits.split(",").length - 1];
  if (points === 0 && commas === 0) return signed(digits);
  const [decimal, group] = digits.lastIndexOf(".") > digits.lastIndexOf(",") ? [".", ","] : [",", "."];
  const both = points > 0 && commas > 0;
  const times = decimal === "." ? points : commas;
  if (times > 1) {
    // Only groups of three stand more than once.
    return both || !inGroups(digits, decimal) ? null : signed(digits.replaceAll(decimal, ""));
  }
  const [whole = "", part = ""] = digits.split(decimal);
  if (part === "" || (both && !inGroups(whole, group))) return null;
  if (!both && mayBeGroup(whole, part, decimal)) return null;
  return signed(`${whole.replaceAll(group, "")}.${part}`);
}

const inGroups = (digits: string, by: string): boolean => {
  const [first = "", ...rest] = digits.split(by);
  return /^\d{1,3}$/.test(first) && rest.length > 0 && rest.every((r) => /^\d{3}$/.test(r));
};
/** "1,250" reads both ways; "1.250" is how decimals are written here, and "0,250" and "1234,250" are no thousands. */
const mayBeGroup = (whole: string, part: string, decimal: string): boolean =>
  decimal === "," && part.length === 3 && /^[1-9]\d{0,2}$/.test(whole);

/** Whether a text would be a number if it could be told which of its signs is the decimal one. */
export const readsBothWays = (text: string): boolean => /^\s*[+-]?[1-9]\d{0,2},\d{3}\s*$/.test(text);

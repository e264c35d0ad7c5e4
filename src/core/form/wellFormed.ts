/** In Unicode mode a surrogate that belongs to a pair is no character of its own. */
const UNFIT = /[\0\uD800-\uDFFF]/u;

/**
 * Whether every text in a value can be kept: no null character, which no database takes, and no half of a surrogate
 * pair, which comes back as something else.
 */
export function wellFormed(v: unknown): boolean {
  if (typeof v === "string") return !UNFIT.test(v);
  if (Array.isArray(v)) return v.every(wellFormed);
  if (v === null || typeof v !== "object" || ArrayBuffer.isView(v)) return true;
  return Object.entries(v).every(([k, x]) => wellFormed(k) && wellFormed(x));
}

/** A text without what cannot be kept. */
export const withoutUnfit = (text: string): string => text.replace(new RegExp(UNFIT, "gu"), "");

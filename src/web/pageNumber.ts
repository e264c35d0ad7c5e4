const LAST = 100_000;

/** The page an address asks for: a whole number from 1 on, whatever stands there. */
export function pageNumber(said: string | string[] | undefined): number {
  const n = typeof said === "string" && /^\d{1,6}$/.test(said) ? Number(said) : 1;
  return Math.min(Math.max(n, 1), LAST);
}

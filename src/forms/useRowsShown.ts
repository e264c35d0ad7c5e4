import { startTransition, useEffect, useState } from "react";

/** Rows drawn at once, where the page is made on the server and when it comes up. */
const FIRST = 100;

/**
 * How many of so many rows are drawn by now: the first hundred with the page, all others a moment later and in between
 * other work. A table of 2,000 lines would else hold up the server that draws it for everybody, and the reader's keys.
 */
export function useRowsShown(total: number): number {
  const [all, setAll] = useState(total <= FIRST);
  useEffect(() => startTransition(() => setAll(true)), []);
  return all ? total : Math.min(total, FIRST);
}
